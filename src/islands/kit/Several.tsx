import { ChevronDown } from './icons';
import { Button, DialogTrigger, Dialog, ListBox, ListBoxItem, Popover } from 'react-aria-components';
import type { Choice } from './Select';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly label: string;
  readonly values: readonly string[];
  readonly choices: readonly Choice[];
  readonly none: string;
  readonly joined?: string;
  readonly onChange: (values: string[]) => void;
}

const shortOf = (choice: Choice | undefined): string =>
  choice?.short ?? choice?.label ?? speak`somebody no longer here`;

/** Several of many, as words in a sentence. */
export function Several({ label, values, choices, none, joined = ', ', onChange }: Props) {
  const words = values.map((value) => shortOf(choices.find((one) => one.value === value))).join(joined);
  return (
    <DialogTrigger>
      <Button aria-label={`${label}: ${words || none}`} className="pick">
        <span>{words || <span className="font-normal text-slate-600">{none}</span>}</span>
        <ChevronDown size={13} aria-hidden className="shrink-0 text-slate-600" />
      </Button>
      <Popover className="popover">
        <Dialog aria-label={label} className="outline-none">
          <ListBox
            aria-label={label}
            selectionMode="multiple"
            // Escape closes; it must not empty what was chosen.
            escapeKeyBehavior="none"
            selectedKeys={values}
            items={choices.map((one) => ({ ...one, id: one.value }))}
            className="outline-none"
            onSelectionChange={(keys) =>
              onChange(
                keys === 'all'
                  ? choices.map(({ value }) => value)
                  : choices.map(({ value }) => value).filter((value) => keys.has(value)),
              )
            }
          >
            {(one) => (
              <ListBoxItem id={one.value} textValue={one.label} className="option">
                {({ isSelected }) => (
                  <>
                    <span aria-hidden className="mr-2 inline-block w-3">
                      {isSelected ? '✓' : ''}
                    </span>
                    {one.label}
                  </>
                )}
              </ListBoxItem>
            )}
          </ListBox>
        </Dialog>
      </Popover>
    </DialogTrigger>
  );
}
