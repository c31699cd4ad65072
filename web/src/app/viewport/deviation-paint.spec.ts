import { Color } from 'three';
import { deviationColors, excessColors, LEGEND } from './deviation-paint';

const painted = (...vertices: number[]) => {
  const colors = deviationColors({
    vertices: Float32Array.from(vertices),
    scale: 0.04,
  });
  return vertices.map(
    (_, v) => `#${new Color(colors[v * 3], colors[v * 3 + 1], colors[v * 3 + 2]).getHexString()}`,
  );
};

describe('deviationColors', () => {
  it('paints in the steps of the legend: uncovered to one side, excess to the other, near ones pale', () => {
    expect(LEGEND.length).toBe(9);
    expect(painted(0, 0.009, -0.009)).toEqual([LEGEND[4]!, LEGEND[4]!, LEGEND[4]!]);
    expect(painted(0.011, 0.041, 9)).toEqual([LEGEND[3]!, LEGEND[0]!, LEGEND[0]!]);
    expect(painted(-0.011, -0.021, -0.041, -9)).toEqual([LEGEND[5]!, LEGEND[6]!, LEGEND[8]!, LEGEND[8]!]);
  });
});

describe('excessColors', () => {
  it('paints faces of shapes in the steps of the legend, and leaves those clear that lie close', () => {
    const colors = excessColors(Float32Array.of(0, 0.009, 0.011, 1), 0.04);
    const opacity = [0, 1, 2, 3].map((v) => colors[v * 4 + 3]! > 0);
    expect(opacity).toEqual([false, false, true, true]);
    const hex = (v: number) =>
      `#${new Color(colors[v * 4], colors[v * 4 + 1], colors[v * 4 + 2]).getHexString()}`;
    expect([hex(2), hex(3)]).toEqual([LEGEND[5]!, LEGEND[8]!]);
  });
});
