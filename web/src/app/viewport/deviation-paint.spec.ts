import { Color } from 'three';
import { deviationColors, LEGEND } from './deviation-paint';

const painted = (...vertices: number[]) => {
  const colors = deviationColors({
    vertices: Float32Array.from(vertices),
    scale: 0.04,
    proxyOutside: 0.04,
    artOutside: 0.04,
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
