import { BpmnModdle } from 'bpmn-moddle';
import { describe, expect, it } from 'vitest';
import { drawnPath } from '../../core/approval/drawing';
import { bpmnOf } from './bpmn-file';

describe('a path as BPMN', () => {
  it('is read by another without a warning, with everything drawn', async () => {
    const drawing = drawnPath(
      [
        { id: 'lead', label: 'Lead <&> "more"', says: 'Ask Tomasz', where: null },
        { id: 'money', label: 'Money', says: 'Ask Osei', where: 'total > 5' },
        { id: 'health', label: 'Health', says: 'Ask Ada', where: null, beside: true },
      ],
      'Treatments',
    );
    const xml = await bpmnOf('Treatment request', drawing);
    const { rootElement, warnings, elementsById } = await new BpmnModdle().fromXML(xml, 'bpmn:Definitions');
    expect(warnings).toEqual([]);
    const [process] = rootElement.rootElements ?? [];
    expect(process?.flowElements?.length).toBe(drawing.nodes.length + drawing.flows.length);
    expect(rootElement.diagrams?.[0]?.plane?.planeElement?.length).toBe(
      drawing.nodes.length + drawing.flows.length,
    );
    expect(elementsById['n_lead']?.name).toBe('Lead <&> "more"');
    expect(elementsById['n_money']?.$type).toBe('bpmn:UserTask');
    expect(xml).toContain('http://www.omg.org/spec/BPMN/20100524/MODEL');
  });
});
