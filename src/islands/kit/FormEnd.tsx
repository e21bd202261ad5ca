interface Props {
  /** What is wrong with what was written; null for nothing. */
  readonly trouble: string | null;
  readonly action: string;
}

/** The end of a small form in which something is written: what is wrong with it, and what to do with it. */
export const FormEnd = ({ trouble, action }: Props) => (
  <>
    {trouble !== null && (
      <p role="alert" className="trouble mt-0!">
        {trouble}
      </p>
    )}
    <p className="flex justify-end">
      <button type="submit" className="button button-dark">
        {action}
      </button>
    </p>
  </>
);
