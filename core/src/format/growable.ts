/** Typed arrays that double when they are full; `view()` is what was pushed. */
export class GrowableFloats {
  private data = new Float64Array(1024);
  length = 0;

  push3(a: number, b: number, c: number): void {
    if (this.length + 3 > this.data.length) this.grow();
    this.data[this.length] = a;
    this.data[this.length + 1] = b;
    this.data[this.length + 2] = c;
    this.length += 3;
  }

  push2(a: number, b: number): void {
    if (this.length + 2 > this.data.length) this.grow();
    this.data[this.length] = a;
    this.data[this.length + 1] = b;
    this.length += 2;
  }

  view(): Float64Array {
    return this.data.subarray(0, this.length);
  }

  private grow(): void {
    const bigger = new Float64Array(this.data.length * 2);
    bigger.set(this.data);
    this.data = bigger;
  }
}

export class GrowableInts {
  private data = new Int32Array(256);
  length = 0;

  push(value: number): void {
    if (this.length === this.data.length) this.grow();
    this.data[this.length++] = value;
  }

  push3(a: number, b: number, c: number): void {
    if (this.length + 3 > this.data.length) this.grow();
    this.data[this.length] = a;
    this.data[this.length + 1] = b;
    this.data[this.length + 2] = c;
    this.length += 3;
  }

  /** what was pushed last; undefined when nothing was */
  get last(): number | undefined {
    return this.length ? this.data[this.length - 1] : undefined;
  }

  view(): Int32Array {
    return this.data.subarray(0, this.length);
  }

  private grow(): void {
    const bigger = new Int32Array(this.data.length * 2);
    bigger.set(this.data);
    this.data = bigger;
  }
}
