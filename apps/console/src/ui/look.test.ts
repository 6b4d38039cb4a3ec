import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { contrastRatio } from './contrast';
import { looks, LIGHTS } from './lights';

describe('the three lights', () => {
  it('are measured with the contrast of WCAG 2.2', () => {
    // Understanding SC 1.4.3: black on white is 21:1; #777777 on white is the well-known 4.48:1 that just fails.
    expect(contrastRatio('#000000', '#ffffff')).toBeCloseTo(21, 5);
    expect(contrastRatio('#777777', '#ffffff')).toBeCloseTo(4.48, 2);
    expect(contrastRatio('#ffffff', '#777777')).toBeCloseTo(4.48, 2);
  });

  it.each(LIGHTS)('let every text of %s be read (AA, 4.5 : 1) on both grounds', (light) => {
    const look = looks[light];
    for (const ground of [look.paper, look.leaf])
      for (const front of [look.ink, look.inkSoft, look.tide, look.sandText, look.alarm])
        expect({ front, ground, ratio: contrastRatio(front, ground) >= 4.5 }).toEqual({ front, ground, ratio: true });
    expect(contrastRatio(look.onTide, look.tide)).toBeGreaterThanOrEqual(4.5);
  });

  it.each(LIGHTS)('let the sand of %s be seen (3 : 1) on the paper', (light) => {
    // SC 1.4.11: graphics that carry meaning.
    expect(contrastRatio(looks[light].sand, looks[light].paper)).toBeGreaterThanOrEqual(3);
  });

  it('keep white out of the watch light', () => {
    for (const colour of Object.values(looks.watch)) {
      const [red, green, blue] = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16)) as [
        number,
        number,
        number,
      ];
      expect(red).toBeGreaterThan(blue);
      expect(green).toBeLessThan(160);
    }
  });

  it.each(LIGHTS)('stand in the head of the page, %s too: it has its paper before the program is there', (light) => {
    const page = readFileSync(join(__dirname, '../../public/index.html'), 'utf8');
    const block =
      light === 'day' ? /html \{\s*--paper[^}]*\}/ : new RegExp(`html\\[data-light='${light}'\\] \\{[^}]*\\}`);
    const said = block.exec(page)![0];
    expect(said).toContain(`--paper: ${looks[light].paper};`);
    // The ring around what has the focus: SC 1.4.11 and 2.4.13, 3 : 1.
    expect(said).toContain(`--tide: ${looks[light].tide};`);
    for (const ground of [looks[light].paper, looks[light].leaf])
      expect(contrastRatio(looks[light].tide, ground)).toBeGreaterThanOrEqual(3);
  });
});
