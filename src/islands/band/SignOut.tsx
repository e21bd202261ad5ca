import { LogOut } from '../kit/icons';

export default function SignOut() {
  const leave = async () => {
    await fetch('/api/sign-out', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{}',
    });
    location.assign('/sign-in');
  };
  return (
    <button
      type="button"
      onClick={() => void leave()}
      className="rounded p-1.5 hover:bg-slate-800"
      aria-label="Sign out"
    >
      <LogOut size={17} aria-hidden />
    </button>
  );
}
