import sharp from 'sharp';
import { sql } from 'drizzle-orm';
import type { Tx } from '../src/data/connect';
import { finish, insertFile } from '../src/data/system/files';
import { madeReady } from '../src/files/photos';
import { limits } from '../src/core/limits';
import { bedInspection } from './forms';
import type { Random } from './random';

const MANY = 14;
const greens = ['#4d7f3a', '#5f9147', '#6d8f2f', '#3f6f4a', '#86994a'];
const spots = ['#c9a24a', '#8a5a2b', '#e0d9b0', '#5a3a28', '#d8c04a'];

/** A leaf with what troubles it, drawn: no photo of anything that is. */
function leaf(random: Random, signs: readonly string[]): string {
  const at = (least: number, most: number): number => random.whole(least, most);
  const green = random.pick(greens);
  const colour = random.pick(spots);
  const dots = Array.from({ length: signs.length * 9 }, () => {
    const y = at(170, 690);
    const wide = 200 * Math.sin(((y - 120) / 620) * Math.PI);
    return `<circle cx="${500 + at(-Math.round(wide), Math.round(wide))}" cy="${y}" r="${at(6, 24)}" fill="${colour}" opacity="0.85"/>`;
  });
  const veins = Array.from({ length: 7 }, (_, i) => {
    const y = 210 + i * 70;
    return `<path d="M500 ${y} q 90 -70 190 -90 M500 ${y} q -90 -70 -190 -90" stroke="#2f5227" stroke-width="5" fill="none" opacity="0.5"/>`;
  });
  const droop = signs.includes('wilting') ? at(18, 34) : at(-10, 10);
  return `<svg xmlns="http://www.w3.org/2000/svg" width="1000" height="800">
    <rect width="1000" height="800" fill="${random.pick(['#3d3226', '#4a4034', '#2e3a33'])}"/>
    ${Array.from({ length: 60 }, () => `<circle cx="${at(0, 1_000)}" cy="${at(0, 800)}" r="${at(4, 30)}" fill="#6b5a45" opacity="0.35"/>`).join('')}
    <g transform="rotate(${droop} 500 760)">
      <path d="M500 110 C 760 230 740 600 500 740 C 260 600 240 230 500 110 Z" fill="${green}"/>
      ${veins.join('')}<path d="M500 110 L500 790" stroke="#2f5227" stroke-width="9"/>${dots.join('')}
    </g></svg>`;
}

/** Photos of the latest inspections that saw pests. */
export async function addPhotos(tx: Tx, random: Random): Promise<void> {
  const { rows } = await tx.execute<{ id: string; by: string; signs: string[]; at: string }>(
    sql`SELECT id, created_by AS by, signs, created_at::text AS at FROM records.inspections WHERE signs IS NOT NULL ORDER BY inspected_on DESC, number DESC LIMIT ${MANY}`,
  );
  // They were there from the first.
  await tx.execute(sql`SELECT set_config('slate.filling', 'yes', true)`);
  for (const { id: record, by, signs, at } of rows) {
    const many = random.whole(1, 3);
    const ids: string[] = [];
    for (let i = 0; i < many; i++) {
      const drawn = await sharp(Buffer.from(leaf(random, signs)))
        .jpeg({ quality: 82 })
        .toBuffer();
      const ready = await madeReady('image/jpeg', drawn);
      if (ready === null) throw new Error('a photo that was just drawn cannot be read');
      const id = random.id(Date.parse(at) + i);
      await insertFile(tx, { id, name: `leaf ${i + 1}.jpg`, size: ready.bytes.length, byId: by });
      await finish(tx, id, ready, { pieceBytes: limits.pieceBytes, outside: false });
      ids.push(id);
    }
    await tx.execute(
      sql`UPDATE slate.file SET table_id = ${bedInspection.table.id}::uuid, record_id = ${record}::uuid WHERE id = ANY (${sql.param(ids)}::uuid[])`,
    );
    await tx.execute(
      sql`UPDATE records.inspections SET photos = ${sql.param(ids)}::uuid[] WHERE id = ${record}::uuid`,
    );
  }
  await tx.execute(sql`SELECT set_config('slate.filling', '', true)`);
}
