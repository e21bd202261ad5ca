import { useState } from 'react';
import { call } from '../kit/call';
import { speak } from '../../core/wording/speak';

/** The way back for an administrator who looks as somebody else. */
export default function LookBack() {
  const [trouble, setTrouble] = useState(false);
  const back = async () => {
    const done = await call('POST', '/api/look-back', {}).catch(() => null);
    if (done?.ok === true) location.assign('/people');
    else setTrouble(true);
  };
  return (
    <>
      <button type="button" className="button" onClick={() => void back()}>{speak`Stop looking`}</button>
      {trouble && <span role="alert">{speak`The server cannot be reached; try again in a moment.`}</span>}
    </>
  );
}
