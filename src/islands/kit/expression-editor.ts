import {
  autocompletion,
  completionKeymap,
  type Completion,
  type CompletionContext,
} from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { lintGutter, linter, type Diagnostic } from '@codemirror/lint';
import { Compartment, EditorState } from '@codemirror/state';
import {
  Decoration,
  EditorView,
  keymap,
  MatchDecorator,
  ViewPlugin,
  placeholder,
  type DecorationSet,
  type ViewUpdate,
} from '@codemirror/view';
import { builtins } from '../../core/expression/functions/list';
import { read } from '../../core/expression/read';
import { typeName, type Scope } from '../../core/expression/type';
import { functionWords } from '../../core/wording/function-words';
import { issueSentence } from '../../core/wording/issue-sentence';
import { typeWord } from '../../core/wording/issues/words';

export interface EditorPorts {
  readonly label: string;
  readonly text: string;
  readonly scope: Scope;
  /** The key of what it belongs to, which it cannot use itself. */
  readonly own: string | undefined;
  readonly example: string;
  readonly onChange: (text: string) => void;
  readonly onBlur: () => void;
}

export interface Editor {
  /** Shows another text, if that is not what stands there. */
  readonly show: (text: string) => void;
  readonly useScope: (scope: Scope) => void;
  readonly insert: (text: string) => void;
  readonly end: () => void;
}

/** Long enough not to mark a word while it is typed. */
const MARK_AFTER_MS = 400;

/** An editor for one expression: names and functions completed with what they mean, wrong places marked with a fix to take. */
export function expressionEditor(host: HTMLElement, ports: EditorPorts): Editor {
  let scope = ports.scope;
  const known = new Compartment();
  const forScope = (own: Scope) => [
    autocompletion({ override: [completions(own, ports.own)], icons: false }),
    linter((view) => diagnostics(view.state.doc.toString(), own), { delay: MARK_AFTER_MS }),
  ];
  // In a shadow root its styles are adopted; elsewhere it would write a style element, which our content security policy refuses.
  const root = host.shadowRoot ?? host.attachShadow({ mode: 'open' });
  const view = new EditorView({
    parent: root,
    root,
    state: EditorState.create({
      doc: ports.text,
      extensions: [
        history(),
        keymap.of([...completionKeymap, ...historyKeymap, ...defaultKeymap]),
        EditorView.lineWrapping,
        lintGutter({ markerFilter: () => [] }),
        placeholder(ports.example),
        tokens,
        look,
        EditorView.contentAttributes.of({
          'aria-label': ports.label,
          spellcheck: 'false',
        }),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) ports.onChange(update.state.doc.toString());
          if (update.focusChanged && !update.view.hasFocus) ports.onBlur();
        }),
        known.of(forScope(scope)),
      ],
    }),
  });
  return {
    show: (text) => {
      const doc = view.state.doc.toString();
      if (doc !== text) view.dispatch({ changes: { from: 0, to: doc.length, insert: text } });
    },
    useScope: (next) => {
      if (next === scope) return;
      scope = next;
      view.dispatch({ effects: known.reconfigure(forScope(next)) });
    },
    insert: (text) => {
      const { from, to } = view.state.selection.main;
      const before = view.state.sliceDoc(Math.max(0, from - 1), from);
      const insert = `${before === '' || before === ' ' || before === '(' ? '' : ' '}${text}`;
      view.dispatch({ changes: { from, to, insert }, selection: { anchor: from + insert.length } });
      view.focus();
    },
    end: () => view.destroy(),
  };
}

/** What may stand where the cursor is: the columns of what is before a dot, or all names and functions. */
function completions(scope: Scope, own: string | undefined) {
  return (context: CompletionContext) => {
    const path = context.matchBefore(/[A-Za-z_][\w]*\.\w*/);
    if (path !== null) {
      const [first = ''] = path.text.split('.');
      return { from: path.from + first.length + 1, options: fieldsOf(scope, first), validFor: /^\w*$/ };
    }
    const word = context.matchBefore(/[A-Za-z_][\w ]*/);
    if (word === null && !context.explicit) return null;
    // A name of several words, such as “starts with”, is completed from its first; others from where the word begins.
    const last = /[A-Za-z_]\w*$/.exec(word?.text ?? '');
    const from = last === null ? context.pos : context.pos - last[0].length;
    return { from, options: [...namesOf(scope, own), ...functions], validFor: /^[\w ]*$/ };
  };
}

const namesOf = (scope: Scope, own: string | undefined): Completion[] =>
  [...scope]
    .filter(([key]) => key !== own)
    .map(([key, { type }]) => ({ label: key, detail: typeWord(typeName(type)), boost: 2 }));

function fieldsOf(scope: Scope, name: string): Completion[] {
  const type = scope.get(name)?.type;
  const fields =
    type?.t === 'record' ? type.fields : type?.t === 'rows' ? type.columns : new Map<string, never>();
  return [...fields].map(([key, field]) => ({
    label: key,
    detail: typeWord(typeName((field as { type: Parameters<typeof typeName>[0] }).type)),
  }));
}

const functions: readonly Completion[] = [...builtins.keys()].map((name) => ({
  label: name,
  detail: functionWords()[name]?.says ?? '',
  info: functionWords()[name]?.example ?? '',
  apply: (view, _completion, from, to) =>
    view.dispatch({
      changes: { from, to, insert: `${name}()` },
      selection: { anchor: from + name.length + (name === 'today' || name === 'now' ? 2 : 1) },
    }),
}));

function diagnostics(text: string, scope: Scope): Diagnostic[] {
  if (text.trim() === '') return [];
  const result = read(text, scope);
  if (result.ok) return [];
  return result.error.slice(0, 5).map((issue) => {
    const from = Math.min(Number(issue.facts['from'] ?? 0), text.length);
    const to = Math.min(Math.max(Number(issue.facts['to'] ?? text.length), from), text.length);
    const meant = issue.facts['meant'];
    return {
      from,
      to,
      severity: 'error',
      message: issueSentence(issue),
      ...(typeof meant === 'string' &&
        meant !== '' &&
        !/[ ()]/.test(meant) && {
          actions: [
            {
              name: `Write ${meant}`,
              apply: (view: EditorView, at: number, end: number) =>
                view.dispatch({ changes: { from: at, to: end, insert: meant } }),
            },
          ],
        }),
    };
  });
}

/** Texts, numbers and the words of the language stand out a little. */
const decorator = new MatchDecorator({
  regexp:
    /"(?:\\.|[^"\\])*"|\b\d+(?:\.\d+)?\b|\b(?:if|then|else|for|in|return|some|every|satisfies|and|or|not|between|true|false|null)\b/g,
  decoration: ([token]) =>
    Decoration.mark({
      class: token.startsWith('"') ? 'feel-text' : /^\d/.test(token) ? 'feel-number' : 'feel-word',
    }),
});
const tokens = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet;
    constructor(view: EditorView) {
      this.decorations = decorator.createDeco(view);
    }
    update(update: ViewUpdate): void {
      this.decorations = decorator.updateDeco(update, this.decorations);
    }
  },
  { decorations: (plugin) => plugin.decorations },
);

const look = EditorView.theme({
  '&': {
    backgroundColor: 'var(--color-slate-50)',
    border: '1px solid var(--color-slate-400)',
    borderRadius: '6px',
    fontSize: '14px',
  },
  '&.cm-focused': { outline: '2px solid var(--color-lichen)', outlineOffset: '1px' },
  '.cm-content': { fontFamily: 'var(--font-mono)', padding: '6px 4px', minHeight: '52px' },
  '.cm-gutters': { display: 'none' },
  '.feel-text': { color: 'var(--color-ochre)' },
  '.feel-number': { color: 'var(--color-plum)' },
  '.feel-word': { fontWeight: '600' },
  '.cm-tooltip': {
    border: '1px solid var(--color-slate-300)',
    borderRadius: '6px',
    backgroundColor: 'white',
    fontFamily: 'var(--font-sans)',
  },
  '.cm-tooltip.cm-tooltip-autocomplete > ul': { fontFamily: 'var(--font-sans)', maxWidth: '340px' },
  '.cm-tooltip-autocomplete > ul > li[aria-selected]': {
    backgroundColor: 'var(--color-lichen-soft)',
    color: 'var(--color-ink)',
  },
  '.cm-completionDetail': { fontStyle: 'normal', color: 'var(--color-slate-600)', fontSize: '13px' },
  '.cm-completionInfo': { fontFamily: 'var(--font-mono)', fontSize: '13px' },
  '.cm-diagnostic': { fontSize: '13px', borderLeftColor: 'var(--color-rust)' },
  '.cm-diagnosticAction': { backgroundColor: 'var(--color-lichen)', borderRadius: '4px' },
  '.cm-placeholder': { color: 'var(--color-slate-600)' },
});
