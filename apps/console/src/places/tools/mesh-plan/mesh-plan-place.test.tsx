import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { meshLink, modemLink, openSettings } from '../../../testing/samples';
import { MeshPlanPlace } from './mesh-plan-place';
import { SunPicture } from './sun-picture';

const open = async ({ mesh = true, placed = true } = {}) => {
  stationAnswers({
    'GET /api/v1/settings': {
      body: { ...openSettings, position: placed ? { latitude: 41.2, longitude: -43.42 } : null },
    },
    'GET /api/v1/bearers': { body: mesh ? [modemLink(), meshLink()] : [modemLink()] },
  });
  renderPiece(<MeshPlanPlace />);
  await screen.findByRole('heading', { name: 'Mesh plan' });
};
const enter = async (name: string, text: string) => {
  const field = screen.getByRole('textbox', { name });
  await userEvent.clear(field);
  if (text !== '') await userEvent.paste(text);
};
const settings = () =>
  within(screen.getByRole('list', { name: 'Settings of the modem' }))
    .getAllByRole('listitem')
    .map((line) => line.textContent ?? '');
const proposed = () => settings().filter((line) => line.includes('proposed'));

describe('the plan of a mesh', () => {
  it('proposes the quickest setting that does and a hop limit, as its fields are typed', async () => {
    await open();
    expect(settings()).toHaveLength(6);
    expect(screen.getByText('3 hops from end to end: hop limit 4, one more for a carrier that is off.')).toBeVisible();
    const [near] = proposed();
    await enter('Loss by what lies between, dB', '34');
    const [far] = proposed();
    expect(Number(/SF(\d+)/.exec(far!)![1])).toBeGreaterThan(Number(/SF(\d+)/.exec(near!)![1]));
    expect(settings()[0]).toMatch(/Only -?\d+ dB in hand between neighbours; 10 are wanted\./);
    await enter('Loss by what lies between, dB', '80');
    expect(proposed()).toEqual([]);
    expect(screen.getByText('No setting does for all of it')).toBeVisible();
    await enter('From end to end, km', '30');
    expect(screen.getByText('Between the two ends 7 must repeat, and there are 3.')).toBeVisible();
  });

  it('tells how long a node runs, and in which months the sun is enough', async () => {
    await open();
    expect(screen.getByText(/^About 1 day and \d+ h without any sun; it takes 5\.\d Wh a day\.$/)).toBeVisible();
    await enter('Panel, cm²', '400');
    expect(screen.getByText('The panel is enough in every month.')).toBeVisible();
    await enter('Panel, cm²', '200');
    expect(screen.getByText(/^Too little in January.* and December\.$/)).toBeVisible();
    await enter('Panel, cm²', '1');
    expect(screen.getByText('The panel is too small in every month.')).toBeVisible();
    // Seldom awake, it lasts for weeks.
    await enter('Of the time that it listens, %', '5');
    expect(screen.getByText(/^About \d\d days without any sun/)).toBeVisible();
  });

  it('says at a field what cannot be, and reckons nothing from it', async () => {
    await open();
    await enter('Nodes in all', '2.5');
    expect(await screen.findByText('a whole number from 2 to 500')).toBeVisible();
    expect(screen.queryByRole('list', { name: 'Settings of the modem' })).toBeNull();
    await enter('Nodes in all', '2');
    expect(screen.getByText('There are more carriers than nodes.')).toBeVisible();
    await enter('Of them carriers, which repeat', '0');
    await enter('From end to end, km', '3');
    expect(screen.getByText('1 hop from end to end: hop limit 2, one more for a carrier that is off.')).toBeVisible();
    await enter('Its voltage, V', '');
    expect(screen.queryByText(/without any sun/)).toBeNull();
  });

  it('expects the first node by then, and asks for the latitude where it is not known', async () => {
    await open({ mesh: false, placed: false });
    expect(screen.getByText(/^No mesh is set up: reckoned for 868\.3 MHz/)).toBeVisible();
    expect(screen.getByText('where it stands, for the sun')).toBeVisible();
    expect(screen.queryByText(/Watt-hours in a day/)).toBeNull();
    await enter('Latitude, degrees', '-41');
    // There June is winter.
    expect(screen.getByText(/^Too little in (?!January).*June.*\.$/)).toBeVisible();
    expect(
      screen.getByText(
        /^The first of them is heard within \d min in half of all cases, within \d+ min in nine of ten\./,
      ),
    ).toBeVisible();
  });

  it('draws a month that is too dark hollow', () => {
    const { container } = renderPiece(
      <SunPicture givenWh={Array.from({ length: 12 }, (_, n) => n)} drawnWh={3.5} width={300} />,
    );
    expect(screen.getByRole('img')).toHaveAccessibleName(/January 0\.0, .*December 11\.0\. The node takes 3\.5\.$/);
    expect(container.querySelectorAll('rect[fill="none"]')).toHaveLength(4);
  });
});
