import type { RowState } from './cells';

/** Who wants to know of which cells; cells are called by their question, in a row by `row/question`. */
export class CellWatchers {
  private readonly all = new Set<() => void>();
  private readonly byCell = new Map<string, Set<() => void>>();
  private readonly changed = new Set<string>();

  /** Told of every change. Gives the way to stop. */
  watch(told: () => void): () => void {
    this.all.add(told);
    return () => this.all.delete(told);
  }

  /** Told when one of the cells changes. Gives the way to stop. */
  watchCells(cells: readonly string[], told: () => void): () => void {
    for (const cell of cells) this.byCell.set(cell, (this.byCell.get(cell) ?? new Set()).add(told));
    return () => {
      for (const cell of cells) this.byCell.get(cell)?.delete(told);
    };
  }

  note(row: RowState | null, question: string): void {
    if (this.byCell.size > 0) this.changed.add(row === null ? question : `${row.id}/${question}`);
  }

  /** Tells, once each, all who watch what was noted since. */
  tell(): void {
    const told = new Set([...this.changed].flatMap((cell) => [...(this.byCell.get(cell) ?? [])]));
    this.changed.clear();
    for (const one of [...this.all, ...told]) one();
  }
}
