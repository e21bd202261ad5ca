import { pathFindings, type PathFinding } from '../../core/approval/path-findings';
import { TriangleAlert } from '../kit/icons';
import type { Workbench } from './use-workbench';
import { directoryOf } from './whom-choices';
import { speak } from '../../core/wording/speak';

/** What is found by holding the path against who is here; nothing where that is nothing. */
export function PathFound({ bench }: { bench: Workbench }) {
  const found = pathFindings(bench.design, directoryOf(bench));
  if (found.length === 0) return null;
  return (
    <section className="margin-part" aria-labelledby="path-found">
      <h2 id="path-found" className="margin-title">
        <TriangleAlert size={16} aria-hidden />
        {speak`Found in the path`}
      </h2>
      <ul className="grid gap-1.5 text-[14px]">
        {found.map((one) => (
          <li key={JSON.stringify(one)}>{words(one, bench)}</li>
        ))}
      </ul>
    </section>
  );
}

function words(found: PathFinding, { design, data }: Workbench): string {
  if (found.t === 'empty-group') {
    const step = design.steps.find(({ id }) => id === found.step)?.label ?? '';
    const group = data.groups.find(({ id }) => id === found.group)?.label ?? '';
    return speak`“${step}” asks the group ${group}, in which nobody is now.`;
  }
  const names = found.people.map((id) => data.people.find((one) => one.id === id)?.name ?? '');
  return names.length === 1
    ? speak`${names[0]} is their own manager, so nobody is asked above them.`
    : speak`${names.join(speak` and `)} are above one another, so nobody is asked beyond them. An administrator puts that right under People.`;
}
