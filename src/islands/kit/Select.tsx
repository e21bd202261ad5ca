import { ChevronDown } from './icons';
import {
  Button,
  ListBox,
  ListBoxItem,
  Popover,
  Select as AriaSelect,
  SelectValue,
} from 'react-aria-components';

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
export function Select({
  label,
  value,
  choices,
  onChange,
  look = 'pick',
  placeholder = 'choose',
  id,
  invalid = false,
  describedBy,
  disabled = false,
  onBlur,
}: Props) {
  return (
    <AriaSelect
      aria-label={label}
      selectedKey={value}
      onSelectionChange={(key) => key !== null && onChange(String(key))}
      isInvalid={invalid}
      isDisabled={disabled}
      placeholder={placeholder}
      className={look === 'pick' ? 'inline-block max-w-full' : 'block w-full'}
      onBlur={() => onBlur?.()}
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
        <SelectValue className="truncate data-[placeholder]:font-normal data-[placeholder]:text-slate-600" />
        <ChevronDown size={13} aria-hidden className="shrink-0 text-slate-600" />
      </Button>
      <Popover className="popover">
        <ListBox items={choices.map((one) => ({ ...one, id: one.value }))} className="outline-none">
          {(one) => (
            <ListBoxItem id={one.value} textValue={one.label || 'empty'} className="option">
              {one.label}
            </ListBoxItem>
          )}
        </ListBox>
      </Popover>
    </AriaSelect>
  );
}
