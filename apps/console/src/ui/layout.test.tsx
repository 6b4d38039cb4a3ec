import { render, screen } from '@testing-library/react';
import { Row, Stack } from './layout';

const styleOf = (name: string) => getComputedStyle(screen.getByLabelText(name));

describe('rows and stacks', () => {
  it('lay out what they are told, and pass the rest on', () => {
    render(
      <>
        <Row aria-label="row" role="group" gap={8} wrap above={4} padX={16} align="center" justify="between" />
        <Stack aria-label="stack" around={12} fill self="start" ruled />
      </>,
    );
    expect(screen.getByRole('group')).toBe(screen.getByLabelText('row'));
    const row = styleOf('row');
    expect([row.flexDirection, row.flexWrap, row.gap, row.marginTop]).toEqual(['row', 'wrap', '8px', '4px']);
    expect([row.paddingLeft, row.alignItems, row.justifyContent]).toEqual(['16px', 'center', 'space-between']);
    const stack = styleOf('stack');
    expect([stack.flexDirection, stack.marginTop, stack.marginBottom]).toEqual(['column', '12px', '12px']);
    expect([stack.alignSelf, stack.flexGrow, stack.borderBottomWidth]).toEqual(['flex-start', '1', '1px']);
  });

  it('do nothing for what is not so or not told', () => {
    render(<Row aria-label="plain" wrap={false} fill={false} ruled={false} gap={undefined} />);
    const plain = styleOf('plain');
    expect([plain.flexWrap, plain.flexGrow, plain.borderBottomWidth]).toEqual(['', '', '0px']);
  });
});
