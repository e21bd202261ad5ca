/** What was sent before, to hold something against that is to be decided. */
export interface PastCases {
  /** The answer by which others are alike, as it is called and shown; null where the form has none, or it is not answered. */
  readonly by: { readonly label: string; readonly shown: string } | null;
  /** The figure that tells most; empty where there is none. */
  readonly figure: string;
  /** The newest first, as far as whoever looks may see them. */
  readonly cases: readonly {
    readonly id: string;
    readonly number: string;
    readonly state: string;
    readonly sentAt: string;
    readonly figure: string;
  }[];
  /** Figures far beyond what was kept before. */
  readonly beyond: readonly BeyondFigure[];
}

export interface BeyondFigure {
  /** Its question; or group, row and column. */
  readonly place: readonly string[];
  readonly label: string;
  readonly shown: string;
  /** So many times the middle one of `count`; below one where it is less. */
  readonly times: number;
  readonly middle: string;
  readonly count: number;
  /** What those have in common, as it is shown; empty where all are meant. */
  readonly like: string;
}
