import { isRecord } from '../../core/expression/value';
import { Later } from '../kit/Awake';
import { LookupLikeness } from '../kit/likenesses';
import { heavy } from './heavy';
import { pastedText, placeholderOf, type LookupControlProps } from './lookup-words';
import { controlId } from './sheet-model';

/** A lookup: its likeness first, and then itself. */
export function Lookups(props: LookupControlProps) {
  const { place, sheet, name, bare = false } = props;
  const value = sheet.value(place);
  return (
    <Later
      likeness={
        <LookupLikeness
          id={controlId(place)}
          label={name}
          text={isRecord(value) ? value.title : pastedText(sheet.raw(place))}
          placeholder={placeholderOf(props)}
          bare={bare}
        />
      }
    >
      {() => heavy.LookupControl !== null && <heavy.LookupControl {...props} />}
    </Later>
  );
}
