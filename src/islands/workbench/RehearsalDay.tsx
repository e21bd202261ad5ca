import { typedDay } from '../../core/formats/days';
import { DateInput } from '../kit/DateInput';
import { today, type RehearsalSetting } from './rehearsal-setting';

interface Props {
  readonly label: string;
  readonly setting: RehearsalSetting;
  readonly set: (part: Partial<RehearsalSetting>) => void;
}

/** On which day something is rehearsed; an empty one is today. What is half typed changes nothing yet. */
export const RehearsalDay = ({ label, setting, set }: Props) => (
  <span className="w-40">
    <DateInput
      label={label}
      value={setting.day}
      onChange={(text) => {
        const day = text === null ? null : typedDay(text);
        if (text === null) set({ day: today(), time: '' });
        else if (day !== null) set({ day });
      }}
    />
  </span>
);
