import { BpmnModdle } from 'bpmn-moddle';
import type { Drawing, DrawnNode } from '../../core/approval/drawing';

const types: Readonly<Record<DrawnNode['t'], string>> = {
  start: 'StartEvent',
  end: 'EndEvent',
  task: 'UserTask',
  keep: 'ServiceTask',
  exclusive: 'ExclusiveGateway',
  parallel: 'ParallelGateway',
};

/** The path of a form as BPMN 2.0 XML, with its drawing. It documents the path, and is not run by it. */
export async function bpmnOf(title: string, { nodes, flows }: Drawing): Promise<string> {
  const moddle = new BpmnModdle();
  const elements = new Map<string, object>(
    nodes.map(({ id, t, name, says }) => [
      id,
      moddle.create(`bpmn:${types[t]}`, {
        id: `n_${id}`,
        ...(name !== '' && { name }),
        ...(says !== undefined && { documentation: [moddle.create('bpmn:Documentation', { text: says })] }),
      }),
    ]),
  );
  const sequence = flows.map(({ id, from, to, name }) =>
    moddle.create('bpmn:SequenceFlow', {
      id: `f_${id}`,
      ...(name !== '' && { name }),
      sourceRef: elements.get(from),
      targetRef: elements.get(to),
    }),
  );
  const process = moddle.create('bpmn:Process', {
    id: 'path',
    name: title,
    isExecutable: false,
    flowElements: [...elements.values(), ...sequence],
  });
  const shapes = nodes.map(({ id, t, x, y, w, h }) =>
    moddle.create('bpmndi:BPMNShape', {
      id: `n_${id}_shape`,
      bpmnElement: elements.get(id),
      ...(t === 'exclusive' && { isMarkerVisible: true }),
      bounds: moddle.create('dc:Bounds', { x, y, width: w, height: h }),
    }),
  );
  const edges = flows.map(({ id, points }, i) =>
    moddle.create('bpmndi:BPMNEdge', {
      id: `f_${id}_edge`,
      bpmnElement: sequence[i],
      waypoint: points.map(([x, y]) => moddle.create('dc:Point', { x, y })),
    }),
  );
  const definitions = moddle.create('bpmn:Definitions', {
    id: 'definitions',
    targetNamespace: 'urn:tidy-slate:path',
    rootElements: [process],
    diagrams: [
      moddle.create('bpmndi:BPMNDiagram', {
        id: 'diagram',
        plane: moddle.create('bpmndi:BPMNPlane', {
          id: 'plane',
          bpmnElement: process,
          planeElement: [...shapes, ...edges],
        }),
      }),
    ],
  });
  const { xml } = await moddle.toXML(definitions, { format: true });
  return xml;
}
