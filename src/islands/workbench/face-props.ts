import type { Workbench } from './use-workbench';

export interface FaceProps {
  readonly bench: Workbench;
  readonly goTo: (face: string) => void;
}
