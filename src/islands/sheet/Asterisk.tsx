import { speak } from '../../core/wording/speak';

export const Asterisk = () => (
  <span className="mx-1 text-rust" title={speak`must be filled`}>
    <span aria-hidden>✱</span>
    <span className="sr-only"> {speak`(must be filled)`}</span>
  </span>
);
