import { parser, trackVariables } from 'lezer-feel';
import type { Scope } from './type';

/**
 * Expressions are stored with ids where a person reads keys, so that a renamed key breaks nothing:
 * `rate * area` is kept as `q1a… * q2b…`. Text that does not parse keeps whatever names are known in it.
 */
export function toStored(shown: string, scope: Scope): string {
  return renamed(shown, scope, (key, names) => names.get(key)?.id);
}

/** The inverse: ids printed as the keys they have today. An id that is gone stays as it is, and is reported when read. */
export function toShown(stored: string, scope: Scope): string {
  return renamed(stored, byId(scope), (id, names) => names.get(id)?.id);
}

type Names = ReadonlyMap<string, { readonly id: string; readonly inner?: Names }>;

function renamed(text: string, names: Names | Scope, other: (name: string, names: Names) => string | undefined): string {
  const root = asNames(names);
  const tree = parser.configure({ top: 'Expression', contextTracker: trackVariables(Object.fromEntries([...root.keys()].map((name) => [name, null]))) }).parse(text);
  let out = '';
  let at = 0;
  let inner: Names | undefined;
  tree.iterate({
    enter(node) {
      const name = text.slice(node.from, node.to);
      if (node.name !== 'VariableName' && node.name !== 'PathName') return;
      const known = node.name === 'VariableName' ? root : (inner ?? new Map());
      const id = other(name, known);
      inner = known.get(name)?.inner;
      if (id === undefined) return;
      out += text.slice(at, node.from) + id;
      at = node.to;
    },
  });
  return out + text.slice(at);
}

function asNames(scope: Names | Scope): Names {
  return new Map([...scope].map(([key, field]) => {
    if (!('type' in field)) return [key, field];
    const fields = field.type.t === 'record' ? field.type.fields : field.type.t === 'rows' ? field.type.columns : null;
    return [key, { id: field.id, ...(fields && { inner: asNames(fields) }) }];
  }));
}

function byId(scope: Scope): Names {
  return new Map([...scope].map(([key, { id, type }]) => {
    const fields = type.t === 'record' ? type.fields : type.t === 'rows' ? type.columns : null;
    return [id, { id: key, ...(fields && { inner: byId(fields) }) }];
  }));
}
