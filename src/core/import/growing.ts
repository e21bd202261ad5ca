/** A list of numbers that grows without making an object of each. */
export class Growing<A extends Float64Array | Int32Array> {
  private list: A;
  private count = 0;

  constructor(private readonly make: (size: number) => A) {
    this.list = make(1_024);
  }

  push(n: number): void {
    if (this.count === this.list.length) {
      const larger = this.make(this.count * 2);
      larger.set(this.list);
      this.list = larger;
    }
    this.list[this.count++] = n;
  }

  /** So many more, the same to begin with: to be written where they are, as long as nothing else comes in. */
  extended(more: number, by: number): A {
    const [from, end] = [this.count, this.count + more];
    if (end > this.list.length) {
      const larger = this.make(Math.max(end, this.list.length * 2));
      larger.set(this.list);
      this.list = larger;
    }
    this.count = end;
    return this.list.fill(by, from, end).subarray(from, end) as A;
  }

  at(i: number): number {
    return this.list[i] ?? 0;
  }

  get length(): number {
    return this.count;
  }

  view(): A {
    return this.list.subarray(0, this.count) as A;
  }
}

export const doubles = (): Growing<Float64Array> => new Growing((size) => new Float64Array(size));
export const integers = (): Growing<Int32Array> => new Growing((size) => new Int32Array(size));

/** The different numbers other than 0, in order. */
export function distinctOf(list: Float64Array): Float64Array {
  const sorted = list.slice().sort();
  let count = 0;
  for (let i = 0; i < sorted.length; i++) {
    const one = sorted[i] ?? 0;
    if (one !== 0 && (count === 0 || one !== sorted[count - 1])) sorted[count++] = one;
  }
  return sorted.slice(0, count);
}

/** Where a number stands in an ordered list; -1 when it does not. */
export function placeIn(sorted: Float64Array, wanted: number): number {
  let [low, high] = [0, sorted.length - 1];
  while (low <= high) {
    const middle = (low + high) >> 1;
    const one = sorted[middle] ?? 0;
    if (one === wanted) return middle;
    if (one < wanted) low = middle + 1;
    else high = middle - 1;
  }
  return -1;
}
