import { Button, Dialog, DialogTrigger, Popover } from 'react-aria-components';
import type { TableAtWork } from '../../contract/answers-from-server';
import { groupables, totalKinds, totalled, type TotalKind } from '../../core/record/groups';
import type { ViewQuery } from '../../core/record/view';
import { LayoutGrid } from '../kit/icons';
import { Select } from '../kit/Select';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly work: TableAtWork;
  readonly query: ViewQuery;
  readonly onQuery: (change: Partial<ViewQuery>) => void;
  readonly total: TotalKind;
  readonly onTotal: (total: TotalKind) => void;
}

const NONE = '';
const layoutWords = { grid: 'a grid', cards: 'cards', calendar: 'a calendar' } as const;

/** How records are laid out: as a grid, put together in groups, as cards, or on the days of a month. */
export function LayoutButton({ work, query, onQuery, total, onTotal }: Props) {
  const days = work.filterables.filter(({ kind }) => kind === 'date' || kind === 'date-time');
  const groups = groupables(work.filterables);
  const [first = NONE, second = NONE] = query.group.split(',');
  const choices = (others: string) => [
    { value: NONE, label: speak`nothing` },
    ...groups.filter(({ text }) => text !== others).map(({ text, label }) => ({ value: text, label })),
  ];
  return (
    <DialogTrigger>
      <Button className="button">
        <LayoutGrid size={15} aria-hidden />
        {speak`Layout`}
      </Button>
      <Popover className="popover overflow-visible p-3!">
        <Dialog aria-label={speak`Layout`} className="grid gap-2 outline-none">
          <p>
            {speakIn`Show them as ${(
              <Select
                label={speak`Layout`}
                value={query.layout}
                choices={(
                  ['grid', 'cards', ...(days.length > 0 ? (['calendar'] as const) : [])] as const
                ).map((one) => ({ value: one, label: layoutWords[one] }))}
                onChange={(next) =>
                  onQuery({
                    layout: next === 'cards' || next === 'calendar' ? next : 'grid',
                    ...(next === 'calendar' && query.day === '' && { day: days[0]?.text ?? '' }),
                  })
                }
              />
            )}`}
            {query.layout === 'calendar' && (
              <>
                {' '}
                {speakIn`by ${(
                  <Select
                    label={speak`The day they stand on`}
                    value={query.day}
                    choices={days.map(({ text, label }) => ({ value: text, label }))}
                    onChange={(day) => onQuery({ day })}
                  />
                )}`}
              </>
            )}
          </p>
          {query.layout === 'grid' && (
            <p>
              {speakIn`Put together by ${(
                <Select
                  label={speak`Put together by`}
                  value={first}
                  choices={choices(second)}
                  onChange={(next) =>
                    onQuery({ group: next === NONE ? '' : [next, second].filter(Boolean).join(',') })
                  }
                />
              )}`}
              {first !== NONE && (
                <>
                  {' '}
                  {speakIn`then by ${(
                    <Select
                      label={speak`Then by`}
                      value={second}
                      choices={choices(first)}
                      onChange={(next) => onQuery({ group: [first, next].filter(Boolean).join(',') })}
                    />
                  )}`}
                </>
              )}
            </p>
          )}
          {totalled(work.table).length > 0 && (
            <p>{speakIn`Numbers are shown by their ${(
              <Select
                label={speak`What numbers come to`}
                value={total}
                choices={totalKinds.map((one) => ({ value: one, label: one }))}
                onChange={(next) => onTotal(totalKinds.find((one) => one === next) ?? 'sum')}
              />
            )}`}</p>
          )}
        </Dialog>
      </Popover>
    </DialogTrigger>
  );
}
