/** The shortest text that is the same number again in single precision. */
export function single(value: number): string {
  const wanted = Math.fround(value);
  for (let digits = 6; digits < 9; digits++) {
    const text = Number(wanted.toPrecision(digits));
    if (Math.fround(text) === wanted) return String(text);
  }
  return String(Number(wanted.toPrecision(9)));
}

/** Lines collected in blocks, so that no string of the whole file is ever held. */
export class TextSink {
  private readonly blocks: Uint8Array[] = [];
  private texts: string[] = [];
  private readonly encoder = new TextEncoder();

  line(text: string): void {
    this.part(`${text}\n`);
  }

  /** Text that goes on in the same line. */
  part(text: string): void {
    this.texts.push(text);
    if (this.texts.length >= 8192) this.flush();
  }

  bytes(): Uint8Array {
    this.flush();
    const all = new Uint8Array(this.blocks.reduce((sum, block) => sum + block.length, 0));
    let at = 0;
    for (const block of this.blocks) {
      all.set(block, at);
      at += block.length;
    }
    return all;
  }

  private flush(): void {
    if (this.texts.length) this.blocks.push(this.encoder.encode(this.texts.join('')));
    this.texts = [];
  }
}
