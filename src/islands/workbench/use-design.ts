import { useCallback, useEffect, useRef, useState } from 'react';
import type { WorkbenchData } from '../../contract/answers-from-server';
import { applied, type DesignChange } from '../../core/form/change/design-change';
import { differenceOf } from '../../core/form/change/design-difference';
import { designHistory } from '../../core/form/change/design-history';
import { mergedDesigns } from '../../core/form/change/merged-designs';
import type { FormDesign } from '../../core/form/design';
import { designChangeSentence } from '../../core/wording/design-change-sentence';
import { call } from '../kit/call';
import { useLive } from '../kit/live';
import { sayWith } from '../kit/say';
import { useKept } from '../kit/use-kept';
import { speak } from '../../core/wording/speak';

/** Somebody else may keep an edit between any two of ours; after so many in a row something else is wrong. */
const MOST_TRIES = 5;

/**
 * The draft of a form while it is designed: edited, undone and done again by changes, kept on the server a
 * moment later, and brought together with what others make of it meanwhile.
 */
export function useDesign(data: WorkbenchData) {
  const [design, setDesign] = useState(data.design);
  const [history] = useState(designHistory);
  const [hasEdited, setEdited] = useState(false);
  const latest = useRef(design);
  /** As the server has it. */
  const base = useRef(data.design);
  const show = useCallback((next: FormDesign) => {
    latest.current = next;
    setDesign(next);
  }, []);
  const edit = useCallback(
    /** Gives what it changed, so that just that can be taken back later. */
    (change: (design: FormDesign) => FormDesign): readonly DesignChange[] => {
      const before = latest.current;
      const after = change(before);
      const changes = differenceOf(before, after);
      if (changes.length === 0) return [];
      history.did(changes);
      setEdited(true);
      show(after);
      return changes;
    },
    [history, show],
  );
  const move = (changes: readonly DesignChange[]) => show(applied(latest.current, changes));

  /** Takes in what somebody else made of it; gives what both made together. */
  const together = useCallback(
    (mine: FormDesign, theirs: FormDesign): FormDesign => {
      const merged = mergedDesigns(base.current, mine, theirs);
      base.current = theirs;
      for (const clash of merged.clashes)
        tellClash(clash, mine, theirs, () => edit((now) => applied(now, [clash])));
      return merged.design;
    },
    [edit],
  );
  const send = async (version: number, sent: FormDesign) => {
    const path = `/api/forms/${data.id}/design`;
    for (let drawnOn = version, mine = sent, tries = 1; ; tries++) {
      const result = await call<{ version: number }>('PUT', path, { version: drawnOn, design: mine });
      if (result.ok) {
        base.current = mine;
        if (mine !== sent) show(applied(mine, differenceOf(sent, latest.current)));
        return result;
      }
      if (result.error.code !== 'design-changed' || tries === MOST_TRIES) return result;
      const theirs = await call<WorkbenchData>('GET', path);
      if (!theirs.ok) return theirs;
      mine = together(mine, theirs.value.design);
      drawnOn = theirs.value.version;
    }
  };
  const kept = useKept({ value: design, version: data.version, at: data.updatedAt, send });
  const { keeper, keep: keepNow } = kept;

  const look = useCallback(async () => {
    // What is on its way meets theirs when the server refuses it.
    if (keeper.isBehind) return;
    const theirs = await call<WorkbenchData>('GET', `/api/forms/${data.id}/design`);
    if (!theirs.ok || keeper.isBehind || theirs.value.version <= keeper.version) return;
    keeper.movedTo(theirs.value.version);
    show(together(latest.current, theirs.value.design));
  }, [data.id, keeper, show, together]);
  useLive([`form:${data.id}`], () => void look().catch(() => undefined));

  return {
    design,
    edit,
    hasEdited,
    undo: () => move(history.undo()),
    redo: () => move(history.redo()),
    pause: () => history.pause(),
    canUndo: history.canUndo,
    canRedo: history.canRedo,
    /** In words, for the buttons. */
    undoing: wordsOf(history.last, design),
    redoing: wordsOf(history.next, design),
    ...kept,
    /** Waits until the server has the design as it is shown; what asks for it may be drawn before the edit is handed to the keeper. */
    keep: useCallback(async () => {
      await new Promise((drawn) => setTimeout(drawn));
      return keepNow();
    }, [keepNow]),
  };
}

function wordsOf(changes: readonly DesignChange[], design: FormDesign): string {
  const [first] = changes;
  if (first === undefined) return '';
  const words = designChangeSentence(first, { before: design, after: design });
  return changes.length === 1 ? words : speak`${words}, and ${changes.length - 1} more`;
}

function tellClash(clash: DesignChange, mine: FormDesign, theirs: FormDesign, takeMine: () => void): void {
  sayWith(
    speak`Somebody else changed the same, and theirs stands. Yours was: ${designChangeSentence(clash, { before: theirs, after: mine })}`,
    speak`Take mine`,
    takeMine,
  );
}

/** Ctrl Z and Ctrl Shift Z anywhere on the faces, and leaving a setting ends the step that typing in it is. */
export function useUndoKeys({ undo, redo }: { undo: () => void; redo: () => void }): void {
  const ways = useRef({ undo, redo });
  useEffect(() => {
    ways.current = { undo, redo };
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey || event.defaultPrevented) return;
      const key = event.key.toLowerCase();
      const way = key === 'z' ? (event.shiftKey ? 'redo' : 'undo') : key === 'y' ? 'redo' : null;
      // What is typed but not part of the design yet has an undo of its own.
      if (
        way === null ||
        (event.target instanceof Element && event.target.closest('[data-own-undo]') !== null)
      )
        return;
      event.preventDefault();
      ways.current[way]();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
}
