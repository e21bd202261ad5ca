import { mailed, type FormDesign, type Mailed, type MailWords } from '../../core/form/design';
import { mailedWords } from '../../core/wording/formula-sentence';
import { limits } from '../../core/limits';
import { Mail } from '../kit/icons';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { MessageInput } from './MessageInput';
import { Troubles } from './Troubles';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** What mails about what was sent say besides what happened and where it is looked at. */
export function MailLines({ bench }: { bench: Workbench }) {
  const mails = bench.design.mails ?? [];
  const rest = mailed.filter((on) => !mails.some((one) => one.on === on));
  const scope = bench.scope();
  const set = (on: Mailed, message: string) => bench.edit((design) => withMail(design, { on, message }));
  return (
    <>
      {mails.map(({ on, message }) => (
        <div key={on} className="line">
          <span className="gutter">
            <Mail size={15} aria-hidden className="ml-auto" />
          </span>
          <div>
            <p className="mb-1">{speakIn`The mail ${mailedWords()[on]} says besides ${(
              <button
                type="button"
                className="button-plain"
                onClick={() => bench.edit((design) => withoutMail(design, on))}
              >{speak`Leave it out`}</button>
            )}`}</p>
            <MessageInput
              label={speak`Words of the mail ${mailedWords()[on]}`}
              message={message}
              scope={scope}
              most={limits.word}
              placeholder={speak`Please look at the bed first.`}
              onChange={(next) => set(on, next)}
            />
            <Troubles bench={bench} id={on} />
          </div>
        </div>
      ))}
      {rest.length > 0 && (
        <div className="line border-b-0">
          <span className="gutter">
            <Mail size={15} aria-hidden className="ml-auto" />
          </span>
          <Sentence>{speakIn`Say something besides in the mail ${(
            <Select
              label={speak`Mail that says something besides`}
              value={null}
              placeholder={speak`to somebody`}
              choices={rest.map((on) => ({ value: on, label: mailedWords()[on] }))}
              onChange={(on) => {
                const which = rest.find((one) => one === on);
                if (which !== undefined) set(which, '');
              }}
            />
          )}`}</Sentence>
        </div>
      )}
    </>
  );
}

/** In the order in which mails are told of. */
const withMail = ({ mails = [], ...design }: FormDesign, mail: MailWords): FormDesign => ({
  ...design,
  mails: mailed.flatMap((on) => (on === mail.on ? [mail] : mails.filter((one) => one.on === on))),
});

function withoutMail({ mails = [], ...design }: FormDesign, on: Mailed): FormDesign {
  const left = mails.filter((one) => one.on !== on);
  return left.length === 0 ? design : { ...design, mails: left };
}
