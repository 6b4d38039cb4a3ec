import { arrivedItem } from '../../testing/samples';
import { itemAsText } from './item-as-text';

it('takes an item along with its state and what proves it, in whole dates', () => {
  const text = itemAsText(
    arrivedItem({
      cc: ['QT6CL'],
      evidence: [
        {
          ...arrivedItem().evidence[0]!,
          kind: 'delivered',
          by: 'QT1NC',
          at: '2026-11-25T08:00:05.000Z',
          note: 'by mail',
        },
      ],
    }),
  );
  expect(text).toBe(
    [
      'From: office@ferry.example',
      'To: qt2ar@sound.example, QT6CL',
      'Date: 2026-11-25 08:00:00Z',
      'Precedence: routine',
      'Subject: Re: List',
      '',
      'Thank you.',
      '',
      'State: arrived',
      '2026-11-25 08:00:05Z Arrived from QT1NC (by mail)',
      '',
    ].join('\n'),
  );
});
