import { readMeantFor, writeMeantFor } from './meant-for';

describe('whom a text is meant for', () => {
  it('is read as it is written', () => {
    const names = ['Ferry Office', 'Ferry', 'Dr. Hallow (clinic)'];
    for (const name of names)
      expect(readMeantFor(writeMeantFor(name, 'when do you run: soon?'), names)).toEqual({
        name,
        text: 'when do you run: soon?',
      });
  });
  it('is told in the other ways that people write it', () => {
    for (const text of ['for ferry office, soon', 'To Ferry Office - soon', 'FERRY OFFICE : soon'])
      expect(readMeantFor(text, ['Ferry Office'])).toEqual({ name: 'Ferry Office', text: 'soon' });
  });
  it('is nobody where a name only stands in the text', () => {
    for (const text of ['Ferry Office', 'Ferry Offices: soon', 'ask Ferry Office: soon', ''])
      expect(readMeantFor(text, ['Ferry Office'])).toBeNull();
  });
});
