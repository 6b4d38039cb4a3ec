import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What earlier versions knew by heart, for the stations that used it. */
const KNOWN_BEFORE = [
  {
    address: 'TELTXT',
    name: 'Phone text',
    id: 'text',
    title: 'Text a phone',
    to: { id: 'to', title: 'Phone number', kind: 'phone', optional: false, offers: [] },
    taken: '^Text to (?<to>\\d+) taken',
    answer: '^(?<to>\\d{3,20}): (?<text>.*)$',
  },
  {
    address: 'POSTBX',
    name: 'One-line mail',
    id: 'mail',
    title: 'Send a mail',
    to: { id: 'to', title: 'Mail address', kind: 'mail', optional: false, offers: [] },
    taken: '^Mail to (?<to>\\S+) taken',
    answer: '^(?<to>[^\\s@]{1,64}@[^\\s@:]{1,255}): (?<text>.*)$',
  },
].map(({ address, name, id, title, to, taken, answer }) => ({
  address,
  name,
  purpose: title,
  reached: '',
  commands: [
    {
      id,
      title,
      fields: [to, { id: 'text', title: 'Text', kind: 'text', optional: false, offers: [] }],
      template: '{to}: {text}',
      asksAcknowledgement: true,
      positionFirst: false,
      answerWithinS: 86_400,
      leftBy: null,
      cautions: ['That the service took it does not say that somebody read it.'],
    },
  ],
  answers: [
    { pattern: taken, proves: 'taken', of: [] },
    { pattern: '^Not sent: (?<reason>.*)$', proves: 'refused', of: [] },
    { pattern: answer, proves: 'answer', of: [] },
  ],
}));

/** Services are a directory that operators keep. */
export class Services implements MigrationInterface {
  readonly name = 'Services1791600000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table service (
        address text primary key,
        definition jsonb not null,
        revision int not null default 1,
        changed_at timestamptz not null
      );
      -- An answer that fits several questions, until somebody says which it belongs to.
      create table answer_offer (
        item_id uuid not null references item (id) on delete cascade,
        leg_id uuid not null references leg (id) on delete cascade,
        primary key (item_id, leg_id)
      );
      -- Without a list of what is still to be sorted in: it would be looked through at each answer.
      create index leg_service on leg using gin ((detail->'service') jsonb_path_ops) with (fastupdate = off)
        where detail ? 'service';
      create index leg_to_call on leg (to_call, created_at) where role = 'convey';
    `);
    const [inUse] = (await runner.query('select 1 from bearer limit 1')) as unknown[];
    if (!inUse) return;
    // What went to them before is answered as it was: what was handed on by the number or address behind it, the rest by its words.
    for (const { address, commands } of KNOWN_BEFORE)
      await runner.query(
        `update leg set detail = coalesce(detail, '{}') || jsonb_build_object('service',
           case when detail->'relay'->>'far' is not null
             then jsonb_build_object('address', to_call, 'command', $2::text, 'values', jsonb_build_object('to', detail->'relay'->>'far'))
             else jsonb_build_object('address', to_call, 'command', '', 'values', '{}'::jsonb, 'byHand', true) end)
         where role = 'convey' and item_id is not null and to_call = $1`,
        [address, commands[0]!.id],
      );
    for (const definition of KNOWN_BEFORE)
      await runner.query('insert into service (address, definition, changed_at) values ($1, $2, now())', [
        definition.address,
        JSON.stringify(definition),
      ]);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
