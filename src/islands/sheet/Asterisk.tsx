export const Asterisk = () => (
  <span className="mx-1 text-rust" title="must be filled">
    <span aria-hidden>✱</span>
    <span className="sr-only"> (must be filled)</span>
  </span>
);
