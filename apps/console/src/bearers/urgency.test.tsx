import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useDrafts } from '../drafts/drafts';
import { renderPiece } from '../testing/render';
import { Urgency } from './urgency';

const draft = () => {
  const { drafts, open } = useDrafts.getState();
  return drafts[open]!;
};

describe('how urgent it is', () => {
  beforeEach(() => void useDrafts.getState().startAnew());

  it('is routine until somebody says otherwise, and is kept with the draft', async () => {
    renderPiece(<Urgency triedHere />);
    await userEvent.click(screen.getByRole('button', { name: 'Routine: set precedence or deadline' }));
    await userEvent.click(screen.getByRole('button', { name: 'Emergency' }));
    expect(screen.getByText(/the emergency number comes first/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'For 1 h' }));
    expect(draft()).toMatchObject({ precedence: 'emergency', withinMin: 60 });
    await userEvent.click(screen.getByRole('button', { name: 'Until the tries are used up' }));
    expect(draft().withinMin).toBeNull();
  });

  it('offers no deadline where the text waits for a session', async () => {
    renderPiece(<Urgency />);
    await userEvent.click(screen.getByRole('button', { name: 'Routine: set precedence' }));
    expect(within(screen.getByRole('group', { name: 'Precedence' })).getAllByRole('button')).toHaveLength(4);
    expect(screen.queryByRole('group', { name: 'Try' })).toBeNull();
  });
});
