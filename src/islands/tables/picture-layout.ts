import Elk, { type ElkExtendedEdge } from 'elkjs/lib/elk-api';
// Its layouts are calculated beside the page, by a file of 1.6 MB that is fetched as it is: building it in took half of the build.
import workerUrl from 'elkjs/lib/elk-worker.min.js?url';
import type { TablePicture } from '../../contract/answers-from-server';

export const SIZE = { width: 190, height: 78 } as const;

export interface Point {
  readonly x: number;
  readonly y: number;
}

export interface Layout {
  /** By key of a table. */
  readonly places: ReadonlyMap<string, Point>;
  /** By index of a reference: the corners of its line, from the table that refers. */
  readonly lines: ReadonlyMap<number, readonly Point[]>;
}

/**
 * Where each table stands: tables stand to the right of those that refer to them, lines cross as little as
 * may be, and each has a way of its own.
 */
export async function laidOut({ tables, references }: TablePicture): Promise<Layout> {
  const elk = new Elk({ workerUrl });
  const graph = await elk.layout({
    id: 'tables',
    layoutOptions: {
      'elk.algorithm': 'layered',
      'elk.direction': 'RIGHT',
      'elk.edgeRouting': 'ORTHOGONAL',
      'elk.layered.spacing.nodeNodeBetweenLayers': '110',
      'elk.layered.spacing.edgeNodeBetweenLayers': '84',
      'elk.layered.spacing.edgeEdgeBetweenLayers': '12',
      'elk.spacing.edgeEdge': '18',
      'elk.spacing.nodeNode': '28',
      'elk.spacing.componentComponent': '40',
      'elk.aspectRatio': '1.8',
      'elk.layered.crossingMinimization.strategy': 'LAYER_SWEEP',
    },
    children: tables.map(({ key }) => ({ id: key, width: SIZE.width, height: SIZE.height })),
    edges: references.map(({ from, to }, i) => ({ id: String(i), sources: [from], targets: [to] })),
  });
  elk.terminateWorker();
  return {
    places: new Map((graph.children ?? []).map(({ id, x = 0, y = 0 }) => [id, { x, y }])),
    lines: new Map(
      (graph.edges ?? []).flatMap(({ id, sections }: ElkExtendedEdge) => {
        const [section] = sections ?? [];
        return section === undefined
          ? []
          : [[Number(id), [section.startPoint, ...(section.bendPoints ?? []), section.endPoint]] as const];
      }),
    ),
  };
}
