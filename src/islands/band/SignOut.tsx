import { LogOut } from '../kit/icons';
import { signOut } from '../kit/sign-out';
import { speak } from '../../core/wording/speak';

export default function SignOut() {
  return (
    <button
      type="button"
      onClick={() => void signOut()}
      className="rounded p-1.5 hover:bg-slate-800"
      aria-label={speak`Sign out`}
    >
      <LogOut size={17} aria-hidden />
    </button>
  );
}
