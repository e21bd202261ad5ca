import { memo, useLayoutEffect, useRef, type RefObject } from 'react';
import { ChevronDown } from './icons';
import {
  Button,
  ListBox,
  ListBoxItem,
  Popover,
  Select as AriaSelect,
  SelectValue,
} from 'react-aria-components';
import { speak } from '../../core/wording/speak';

export interface Choice {
  readonly value: string;
  readonly label: string;
  /** What stands in the sentence once it is picked, where the label says more. */
  readonly short?: string;
}

interface Props {
  readonly label: string;
  readonly value: string | null;
  readonly choices: readonly Choice[];
  readonly onChange: (value: string) => void;
  /** `pick` stands inside a sentence; `box` is a field of the sheet. */
  readonly look?: 'pick' | 'box';
  readonly placeholder?: string;
  readonly id?: string;
  readonly invalid?: boolean;
  readonly describedBy?: string | undefined;
  readonly disabled?: boolean;
  readonly onBlur?: () => void;
}

/** One of several, as a word in a sentence or as a field. */
export function Select({ onChange, onBlur, ...shown }: Props) {
  const handlers = useRef<Pick<Props, 'onChange' | 'onBlur'>>({ onChange });
  useLayoutEffect(() => void (handlers.current = { onChange, ...(onBlur !== undefined && { onBlur }) }));
  return <Shown {...shown} handlers={handlers} />;
}

type ShownProps = Omit<Props, 'onChange' | 'onBlur'> & {
  readonly handlers: RefObject<Pick<Props, 'onChange' | 'onBlur'>>;
};

/** A margin has a dozen, and each takes a millisecond to draw: they are drawn again only when they would look different. */
const Shown = memo(AsDrawn, looksAlike);

function looksAlike({ choices, ...before }: ShownProps, { choices: others, ...after }: ShownProps): boolean {
  const keys = new Set([...Object.keys(before), ...Object.keys(after)]) as Set<keyof typeof before>;
  return (
    [...keys].every((key) => before[key] === after[key]) &&
    (choices === others ||
      (choices.length === others.length &&
        choices.every(
          (one, i) =>
            one.value === others[i]?.value && one.label === others[i].label && one.short === others[i].short,
        )))
  );
}

function AsDrawn({
  label,
  value,
  choices,
  look = 'pick',
  placeholder = 'choose',
  id,
  invalid = false,
  describedBy,
  disabled = false,
  handlers,
}: ShownProps) {
  return (
    <AriaSelect
      aria-label={label}
      selectedKey={value}
      onSelectionChange={(key) => key !== null && handlers.current.onChange(String(key))}
      isInvalid={invalid}
      isDisabled={disabled}
      placeholder={placeholder}
      className={look === 'pick' ? 'inline-block max-w-full' : 'block w-full'}
      onBlur={() => handlers.current.onBlur?.()}
    >
      <Button
        {...(id !== undefined && { id })}
        aria-describedby={describedBy}
        className={
          look === 'pick'
            ? 'pick'
            : `box flex items-center justify-between gap-2 text-left ${invalid ? 'wrong' : ''}`
        }
      >
        <SelectValue<Choice> className="truncate data-[placeholder]:font-normal data-[placeholder]:text-slate-600">
          {({ selectedItem, defaultChildren }) => selectedItem?.short ?? defaultChildren}
        </SelectValue>
        <ChevronDown size={13} aria-hidden className="shrink-0 text-slate-600" />
      </Button>
      <Popover className="popover">
        <ListBox items={choices.map((one) => ({ ...one, id: one.value }))} className="outline-none">
          {(one) => (
            <ListBoxItem id={one.value} textValue={one.label || speak`empty`} className="option">
              {one.label}
            </ListBoxItem>
          )}
        </ListBox>
      </Popover>
    </AriaSelect>
  );
}
