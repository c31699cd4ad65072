/** Art that the tests write themselves, as OBJ text. */
type Vec3 = [number, number, number];

export class ObjText {
  private readonly lines: string[] = [];
  private vertices = 0;
  /** where everything lies */
  readonly min: Vec3 = [Infinity, Infinity, Infinity];
  readonly max: Vec3 = [-Infinity, -Infinity, -Infinity];

  object(name: string): this {
    this.lines.push(`o ${name}`);
    return this;
  }

  box(center: Vec3, half: Vec3): this {
    const corners = [0, 1, 2, 3, 4, 5, 6, 7].map(
      (k) => center.map((c, i) => c + (k & (1 << i) ? half[i]! : -half[i]!)) as Vec3,
    );
    return this.solid(corners, [
      [0, 2, 3, 1],
      [4, 5, 7, 6],
      [0, 1, 5, 4],
      [2, 6, 7, 3],
      [0, 4, 6, 2],
      [1, 3, 7, 5],
    ]);
  }

  octahedron([x, y, z]: Vec3, radius: number): this {
    const corners: Vec3[] = [
      [x + radius, y, z],
      [x - radius, y, z],
      [x, y + radius, z],
      [x, y - radius, z],
      [x, y, z + radius],
      [x, y, z - radius],
    ];
    return this.solid(corners, [
      [0, 2, 4],
      [2, 1, 4],
      [1, 3, 4],
      [3, 0, 4],
      [2, 0, 5],
      [1, 2, 5],
      [3, 1, 5],
      [0, 3, 5],
    ]);
  }

  /** A wavy sheet of 2 * n * n triangles. */
  sheet(n: number): this {
    for (let i = 0; i <= n; i++)
      for (let j = 0; j <= n; j++) this.vertex([i / n, 0.05 * Math.sin(i / 7) * Math.cos(j / 5), j / n]);
    const at = (i: number, j: number) => this.vertices - (n + 1) ** 2 + i * (n + 1) + j + 1;
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++)
        this.lines.push(`f ${at(i, j)} ${at(i, j + 1)} ${at(i + 1, j + 1)} ${at(i + 1, j)}`);
    return this;
  }

  text(): string {
    return `${this.lines.join('\n')}\n`;
  }

  private solid(corners: readonly Vec3[], faces: readonly number[][]): this {
    const first = this.vertices + 1;
    corners.forEach((corner) => this.vertex(corner));
    for (const face of faces) this.lines.push(`f ${face.map((v) => v + first).join(' ')}`);
    return this;
  }

  private vertex(place: Vec3): void {
    this.vertices++;
    this.lines.push(`v ${place.join(' ')}`);
    place.forEach((value, i) => {
      this.min[i] = Math.min(this.min[i]!, value);
      this.max[i] = Math.max(this.max[i]!, value);
    });
  }
}
