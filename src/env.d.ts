/// <reference types="astro/client" />

declare namespace App {
  interface Locals {
    person: import('./core/access/rules').Person | null;
    /** The administrator who looks as that person, and changes nothing. */
    lookedBy: import('./core/access/rules').Person | null;
    /** Sites whose pages may show this page within them. */
    framedBy: readonly string[];
  }
}

/** The library comes without types; these are of what is used of it. */
declare module 'dmn-moddle' {
  export namespace Moddle {
    interface Text {
      readonly text?: string;
      readonly typeRef?: string;
    }
    interface DecisionTable {
      readonly $type: string;
      readonly hitPolicy?: string;
      readonly input?: readonly { readonly inputExpression?: Text }[];
      readonly output?: readonly {
        readonly name?: string;
        readonly label?: string;
        readonly typeRef?: string;
        readonly outputValues?: Text;
      }[];
      readonly rule?: readonly {
        readonly inputEntry?: readonly Text[];
        readonly outputEntry?: readonly Text[];
      }[];
    }
    interface Definitions {
      readonly drgElement?: readonly { readonly name?: string; readonly decisionLogic?: DecisionTable }[];
    }
  }
  export class DmnModdle {
    create(type: string, fields: object): object;
    toXML(of: object, options: { format: boolean }): Promise<{ xml: string }>;
    fromXML(xml: string, type: string): Promise<{ rootElement: Moddle.Definitions }>;
  }
}

/** The library comes without types; these are of what is used of it. */
declare module 'bpmn-moddle' {
  interface Element {
    readonly $type: string;
    readonly name?: string;
    readonly flowElements?: readonly Element[];
  }
  export class BpmnModdle {
    create(type: string, fields: object): object;
    toXML(of: object, options: { format: boolean }): Promise<{ xml: string }>;
    fromXML(
      xml: string,
      type: string,
    ): Promise<{
      rootElement: {
        readonly rootElements?: readonly Element[];
        readonly diagrams?: readonly { readonly plane?: { readonly planeElement?: readonly Element[] } }[];
      };
      warnings: readonly unknown[];
      elementsById: Readonly<Record<string, Element | undefined>>;
    }>;
  }
}
