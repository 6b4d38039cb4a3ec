import Feature from 'ol/Feature';
import { LineString, Point, Polygon } from 'ol/geom';
import type { Style } from 'ol/style';
import { looks } from '../../../ui/lights';
import { AT, heardStation } from '../../../testing/samples';
import { createOwnMapStyle } from './own-map-style';
import { createStationStyles } from './station-style';

const square = new Polygon([
  [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 0],
  ],
]);
const feature = (geometry: Point | LineString | Polygon, properties: Record<string, unknown> = {}) => {
  const made = new Feature(geometry);
  made.setProperties(properties);
  return made;
};

describe('maps of one’s own', () => {
  const style = createOwnMapStyle(looks.day, () => true);
  it('are drawn by the kind of a feature, and darker the higher', () => {
    const fill = (properties: Record<string, unknown>) => style(feature(square, properties), 10)?.getFill()?.getColor();
    expect(fill({ kind: 'land' })).toBe(looks.day.leaf);
    const heights = [50, 200, 400].map((heightM) => String(fill({ kind: 'height', heightM })));
    const red = heights.map((colour) => Number(/\d+/.exec(colour)![0]));
    expect(red[0]!).toBeGreaterThan(red[1]!);
    expect(red[1]!).toBeGreaterThan(red[2]!);
    expect(fill({ kind: 'height', heightM: 'high' })).toBe(fill({ kind: 'height', heightM: 0 }));
  });
  it('show closed roads in another shape than open ones, not only in another colour', () => {
    const line = new LineString([
      [0, 0],
      [1, 1],
    ]);
    const dash = (kind: string) => style(feature(line, { kind }), 10)?.getStroke()?.getLineDash();
    expect(dash('road')).toBeNull();
    expect(dash('road closed')).toEqual([7, 6]);
  });
  it('leave small places out from afar, and write out what a name hides', () => {
    const place = (rank: string, resolution: number) =>
      style(feature(new Point([0, 0]), { kind: 'place', rank, name: 'Ra\u202emp' }), resolution)
        ?.getText()
        ?.getText();
    expect(place('spot', 10)).toBe('Ra⟨U+202E⟩mp');
    expect(place('spot', 100)).toBeUndefined();
    expect(place('island', 100)).toBe('Ra⟨U+202E⟩mp');
  });
  it('write a name where no station is, and where it first would stand when there is no room', () => {
    const of = (rank: string, stations: readonly (readonly [number, number])[]) => {
      const among = createOwnMapStyle(
        looks.day,
        ([west = 0, south = 0, east = 0, north = 0]) =>
          !stations.some(([x, y]) => x >= west && x <= east && y >= south && y <= north),
      );
      // Ten metres a pixel.
      const text = among(feature(new Point([1000, 2000]), { kind: 'place', rank, name: 'Hollin' }), 10)!.getText()!;
      return [text.getOffsetX(), text.getOffsetY(), text.getTextAlign()];
    };
    expect(of('island', [])).toEqual([0, 0, 'center']);
    // Below a station its own name stands; pixels go down, the map goes up.
    expect(of('island', [[1000, 2000]])).toEqual([0, -28, 'center']);
    expect(of('island', [[1000, 2200]])).toEqual([0, 28, 'center']);
    const onBothSides = [
      [1000, 2000],
      [1000, 2280],
    ] as const;
    expect(of('island', onBothSides)).toEqual([0, 48, 'center']);
    expect(of('town', [])).toEqual([16, -8, 'left']);
    expect(of('town', [[1300, 2080]])).toEqual([-16, -8, 'right']);
    const everywhere = [-60, -40, -20, 0, 20, 40, 60].map((up) => [1000, 2000 + 10 * up] as const);
    const around = [...everywhere, [1400, 2000], [600, 2000]] as const;
    expect(of('island', around)).toEqual([0, 0, 'center']);
  });
  it('fall back to the geometry for what they do not know', () => {
    expect(style(feature(square, { kind: 'quarry' }), 10)?.getFill()).toBeTruthy();
    expect(
      style(
        feature(
          new LineString([
            [0, 0],
            [1, 1],
          ]),
        ),
        10,
      )?.getStroke(),
    ).toBeTruthy();
    expect(
      style(feature(new Point([0, 0]), { name: 'Ramp' }), 10)
        ?.getText()
        ?.getText(),
    ).toBe('Ramp');
  });
});

describe('stations on the map', () => {
  const draw = createStationStyles(looks.day, () => Date.parse(AT));
  const cluster = (...stations: ReturnType<typeof heardStation>[]) =>
    feature(new Point([0, 0]), {
      features: stations.map((station) => feature(new Point([0, 0]), { station })),
    });
  const stroke = (how: 'direct' | 'relayed' | 'internet') => {
    const [body] = draw(cluster(heardStation({ how })), 1000, null) as Style[];
    return (body!.getImage() as unknown as { getStroke(): { getLineDash(): number[] | null } })
      .getStroke()
      .getLineDash();
  };
  it('tell by their outline how they were heard, so that it reads without colour', () => {
    expect(stroke('direct')).toBeNull();
    expect(stroke('relayed')).toEqual([5, 3]);
    expect(stroke('internet')).toEqual([1.5, 3]);
  });
  it('are counted where they lie close together, but the chosen one stands out', () => {
    const two = cluster(heardStation({ call: 'A', name: 'A' }), heardStation({ call: 'B', name: 'B' }));
    expect((draw(two, 1000, null) as Style).getText()?.getText()).toBe('2');
    const chosen = draw(two, 1000, 'B') as Style[];
    expect(chosen.at(-1)!.getText()?.getText()).toBe('B');
  });
  it('carry their names from near, and share their looks', () => {
    const one = cluster(heardStation());
    expect((draw(one, 1000, null) as Style[]).some((style) => style.getText())).toBe(false);
    const near = draw(one, 10, null) as Style[];
    expect(near.at(-1)!.getText()?.getText()).toBe('QT3TK-14');
    expect((draw(cluster(heardStation({ call: 'QT1XX', name: 'QT1XX' })), 1000, null) as Style[])[0]).toBe(
      (draw(one, 1000, null) as Style[])[0],
    );
  });
});
