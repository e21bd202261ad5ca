import { useQuery } from '@tanstack/react-query';
import {
  Background,
  BaseEdge,
  Controls,
  Handle,
  MarkerType,
  Position,
  ReactFlow,
  type Edge,
  type EdgeProps,
  type Node,
  type NodeProps,
} from '@xyflow/react';
import '@xyflow/react/dist/style.css';
import { useCallback } from 'react';
import type { TablePicture, TablesData } from '../../contract/answers-from-server';
import { fetched } from '../kit/call';
import { useLive } from '../kit/live';
import { laidOut, SIZE, type Point } from './picture-layout';
import { columnsInWords } from '../../core/wording/change-sentence';
import { countWords } from './count-words';
import { speak } from '../../core/wording/speak';

type TableNode = Node<TablePicture['tables'][number], 'table'>;

/** The tables as boxes, each arrow a reference from the column it is named after. */
export default function TablesPicture({ tables }: { tables: TablesData['tables'] }) {
  const { data, refetch, isError } = useQuery({
    queryKey: ['picture'],
    queryFn: async () => {
      const picture = await fetched<TablePicture>('/api/tables/picture');
      return { picture, layout: await laidOut(picture) };
    },
  });
  useLive(
    ['forms', ...tables.map(({ id }) => `table:${id}`)],
    useCallback(() => void refetch(), [refetch]),
  );
  if (isError)
    return (
      <p
        role="alert"
        className="trouble"
      >{speak`The picture could not be drawn. The list shows every table.`}</p>
    );
  if (data === undefined)
    return <div className="h-[70vh] rounded-lg border border-slate-200 bg-white" aria-busy="true" />;
  const nodes: TableNode[] = data.picture.tables.map((table) => ({
    id: table.key,
    type: 'table',
    data: table,
    position: data.layout.places.get(table.key) ?? { x: 0, y: 0 },
    width: SIZE.width,
    height: SIZE.height,
  }));
  const edges: ReferenceEdge[] = data.picture.references.map(({ from, to, label }, i) => ({
    id: String(i),
    source: from,
    target: to,
    type: 'reference',
    data: { label, line: data.layout.lines.get(i) ?? [] },
    markerEnd: { type: MarkerType.ArrowClosed, color: LINE },
  }));
  return (
    <div
      className="h-[70vh] min-h-96 overflow-hidden rounded-lg border border-slate-200 bg-white"
      role="region"
      aria-label={speak`How tables refer to one another`}
    >
      <ReactFlow
        nodes={nodes}
        edges={edges}
        nodeTypes={nodeTypes}
        edgeTypes={edgeTypes}
        fitView
        fitViewOptions={{ maxZoom: 1.1, padding: 0.08 }}
        minZoom={0.15}
        nodesDraggable={false}
        nodesConnectable={false}
        nodesFocusable={false}
        edgesFocusable={false}
        elementsSelectable={false}
      >
        <Background color="var(--color-slate-200)" />
        <Controls showInteractive={false} />
      </ReactFlow>
    </div>
  );
}

const LINE = '#718791';

type ReferenceEdge = Edge<{ label: string; line: readonly Point[] }, 'reference'>;

/** The line as it was laid out, named where it leaves its table. */
function ReferenceLine({ data, markerEnd }: EdgeProps<ReferenceEdge>) {
  const [start, ...rest] = data?.line ?? [];
  if (start === undefined) return null;
  return (
    <>
      <BaseEdge
        path={`M ${start.x} ${start.y} ${rest.map(({ x, y }) => `L ${x} ${y}`).join(' ')}`}
        style={{ stroke: LINE }}
        {...(markerEnd !== undefined && { markerEnd })}
      />
      <text x={start.x + 5} y={start.y - 4} fontSize={12} fill="var(--color-slate-700)">
        {(data?.label ?? '').slice(0, 16)}
      </text>
    </>
  );
}

function TableBox({ data }: NodeProps<TableNode>) {
  return (
    <a
      href={`/tables/${data.key}`}
      className="nodrag nopan pointer-events-auto block h-full overflow-hidden rounded-md border border-slate-400 bg-white px-3 py-1.5 text-ink no-underline hover:border-lichen hover:bg-lichen-soft"
    >
      <Handle type="target" position={Position.Left} className="invisible" />
      <span className="block truncate font-semibold">{data.label}</span>
      <span className="quiet block truncate">
        {data.title.length === 0 ? columnsInWords(data.columns) : speak`named by ${data.title.join(', ')}`}
      </span>
      <span className="quiet tabular block">{countWords(data)}</span>
      <Handle type="source" position={Position.Right} className="invisible" />
    </a>
  );
}

const nodeTypes = { table: TableBox };
const edgeTypes = { reference: ReferenceLine };
