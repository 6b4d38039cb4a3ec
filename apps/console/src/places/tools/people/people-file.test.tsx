import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { readVcards } from '@tombolo/core';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { person } from '../../../testing/samples';
import { PeopleFile } from './people-file';

const FERRY = {
  ...person('Ferry Office', { phone: '+00 555 0142' }),
  broughtBy: [{ person: '5d1c8f0a-6f0e-4c36-9a52-5b1f0d3a7e02', aboutMin: 40 }],
};
const input = () => screen.getByLabelText<HTMLInputElement>('File of people');
// The browser of the tests knows no text() of a file.
const give = (text: string, name = 'people.vcf') =>
  userEvent.upload(
    input(),
    Object.assign(new File([text], name, { type: 'text/vcard' }), { text: () => Promise.resolve(text) }),
  );
const CARDS = [
  'BEGIN:VCARD',
  'VERSION:4.0',
  'FN:ferry office',
  'EMAIL:office@ferry.example',
  'END:VCARD',
  'BEGIN:VCARD',
  'VERSION:4.0',
  'FN:Dr Hallow',
  'TEL;VALUE=uri:tel:+00-555-0199',
  'EMAIL:no mail',
  'END:VCARD',
  'BEGIN:VCARD',
  'VERSION:4.0',
  'FN:Nobody Reachable',
  'END:VCARD',
  '',
].join('\r\n');

describe('a file of people', () => {
  it('shows what it would change, and is kept when that is wanted', async () => {
    const asked = stationAnswers({ 'PUT /api/v1/people': { body: [FERRY, person('Dr Hallow', { phone: '1234' })] } });
    renderPiece(<PeopleFile people={[FERRY]} />);
    await give(CARDS);
    expect(await screen.findByText('New: Dr Hallow.')).toBeInTheDocument();
    expect(screen.getByText('With more or other addresses: Ferry Office.')).toBeInTheDocument();
    expect(screen.getAllByRole('listitem').map((line) => line.textContent)).toEqual([
      'Dr Hallow, mail no mail: a mail address',
      'Nobody Reachable: at least one address: nobody is reached without',
    ]);
    expect(asked).toEqual([]);
    await userEvent.click(screen.getByRole('button', { name: 'Keep 2 people' }));
    await waitFor(() =>
      expect(asked[0]?.body).toEqual({
        people: [
          {
            id: FERRY.id,
            name: 'Ferry Office',
            licensed: FERRY.licensed,
            agreement: '',
            addresses: [
              { sort: 'phone', address: '+00 555 0142' },
              { sort: 'mail', address: 'office@ferry.example' },
            ],
            // What no file tells of stays.
            broughtBy: FERRY.broughtBy,
          },
          {
            id: expect.any(String),
            name: 'Dr Hallow',
            licensed: false,
            agreement: '',
            addresses: [{ sort: 'phone', address: '+00 555 0199' }],
            broughtBy: [],
          },
        ],
        without: [],
      }),
    );
    expect(await screen.findByText('Kept: 2 people.')).toBeInTheDocument();
    // One press, and the list is as before: who was changed, and without who came.
    await userEvent.click(screen.getByRole('button', { name: 'Take the file back' }));
    const { people } = asked[0]!.body as { people: { id: string }[] };
    await waitFor(() => expect(asked.at(-1)?.body).toEqual({ people: [FERRY], without: [people[1]!.id] }));
    expect(await screen.findByText('What the file changed is taken back.')).toBeInTheDocument();
    expect(screen.queryByText(/^Kept/)).toBeNull();
  });

  it('that is none, or far too large, says so and changes nothing', async () => {
    const asked = stationAnswers({});
    renderPiece(<PeopleFile people={[FERRY]} />);
    await give('just words');
    expect(await screen.findByText(/names no column “name”/)).toBeInTheDocument();
    await give('x'.repeat(10_000_000));
    expect(await screen.findByText(/larger than 1 MB/)).toBeInTheDocument();
    await give('name,phone\nFerry Office,+00 555 0142\n', 'people.csv');
    expect(await screen.findByText('On the list just so: 1 person.')).toBeInTheDocument();
    expect(screen.queryByRole('button', { name: /^Keep/ })).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Leave the file' }));
    expect(screen.queryByText('What the file would change')).toBeNull();
    expect(asked).toEqual([]);
  });

  it('is written of who is on the list', async () => {
    stationAnswers({});
    const made: Blob[] = [];
    URL.createObjectURL = (blob) => `blob:${made.push(blob as Blob)}`;
    URL.revokeObjectURL = () => undefined;
    HTMLAnchorElement.prototype.click = () => undefined;
    renderPiece(<PeopleFile people={[FERRY]} />);
    await userEvent.click(screen.getByRole('button', { name: 'Save as vCards' }));
    const text = await new Promise<string>((resolve) => {
      const reader = new FileReader();
      reader.onload = () => resolve(String(reader.result));
      reader.readAsText(made[0]!);
    });
    const read = readVcards(text);
    const { broughtBy: _, ...told } = FERRY;
    expect(read.ok && read.value).toEqual([{ ...told, agreement: null }]);
    expect(text).toContain(`UID:urn:uuid:${FERRY.id}`);
  });
});
