import { speak } from './speak';

/** A figure far beyond what is usual, with what that is told by. */
interface Figure {
  readonly label: string;
  readonly shown: string;
  readonly times: number;
  readonly middle: string;
  readonly count: number;
  /** What those have in common; empty where all are meant. */
  readonly like: string;
}

/** “Total, 640.0, is 3.2 times what is usual: the middle one of 41 for G4-12 is 200.0”. */
export function beyondSentence({ label, shown, times, middle, count, like }: Figure): string {
  const much =
    times >= 1
      ? speak`${Math.round(times * 10) / 10} times`
      : speak`${Math.max(1, Math.round(times * 100))} % of`;
  return speak`${label}, ${shown}, is ${much} what is usual: the middle one of ${count}${like === '' ? '' : speak` for ${like}`} is ${middle}`;
}
