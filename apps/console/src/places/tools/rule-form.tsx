import { bearerKind, newStandingRule, type NewStandingRule, type StandingRule } from '@tombolo/contract';
import { readWhole } from '@tombolo/core';
import { useState } from 'react';
import { useBearers, useChange } from '../../live/queries';
import { relayApi } from '../../live/relays';
import { Button } from '../../ui/button';
import { Choice } from '../../ui/choice';
import { Field } from '../../ui/field';
import { Row, Stack } from '../../ui/layout';
import { Notice } from '../../ui/page';
import { Heading } from '../../ui/text';

const BLANK = { name: '', senders: '', to: '', from: '06:00', until: '22:00', most: '6' };

const entryOf = (rule: StandingRule): typeof BLANK => ({
  name: rule.name,
  senders: rule.senders.join(', '),
  to: rule.to,
  from: rule.hours.from,
  until: rule.hours.until,
  most: String(rule.mostPerHour),
});

/** A new rule, or one that is changed: either way it is off afterwards. */
export function RuleForm({ rule: before, done }: { rule?: StandingRule; done?: () => void }) {
  const bearers = useBearers();
  const [entry, setEntry] = useState(before ? entryOf(before) : BLANK);
  const [fromBearer, setFrom] = useState<string | null>(before?.fromBearer ?? null);
  const [toBearer, setTo] = useState<string | null>(before?.toBearer ?? null);
  const keep = useChange(
    ({ id, ...rule }: NewStandingRule) =>
      before ? relayApi.changeRule(before.id, rule) : relayApi.addRule({ id, ...rule }),
    ['rules'],
  );
  const sources = bearers.data?.filter(({ config }) => bearerKind(config.kind).sends !== 'nothing') ?? [];
  const targets =
    bearers.data?.filter(({ config }) => ['packets', 'texts'].includes(bearerKind(config.kind).sends)) ?? [];
  const rule = {
    id: crypto.randomUUID(),
    name: entry.name,
    fromBearer: fromBearer ?? sources[0]?.id ?? '',
    senders: entry.senders.split(/[\s,]+/).filter(Boolean),
    toBearer: toBearer ?? targets[0]?.id ?? '',
    to: entry.to,
    hours: { from: entry.from, until: entry.until },
    mostPerHour: readWhole(entry.most),
  };
  const checked = newStandingRule.safeParse(rule);
  const problem = (path: string, value: string) =>
    value === '' ? undefined : checked.error?.issues.find((issue) => issue.path.join('.').startsWith(path))?.message;
  const field = (key: keyof typeof BLANK, label: string, path: string, hint?: string) => (
    <Field
      label={label}
      value={entry[key]}
      onChangeText={(value) => setEntry({ ...entry, [key]: value })}
      error={problem(path, entry[key])}
      hint={hint}
    />
  );
  return (
    <Stack above={20}>
      <Heading level={before ? 3 : 2}>{before ? `Change “${before.name}”` : 'Add a rule'}</Heading>
      {field('name', 'Name', 'name')}
      <Choice
        label="What arrives on"
        value={rule.fromBearer}
        onChange={setFrom}
        options={sources.map(({ id, name }) => ({ id, title: name }))}
      />
      {field('senders', 'From whom', 'senders', 'Calls or nodes with commas between; empty for everybody')}
      <Choice
        label="Goes out by"
        value={rule.toBearer}
        onChange={setTo}
        options={targets.map(({ id, name }) => ({ id, title: name }))}
      />
      {field('to', 'To', 'to', 'A service, a node or a channel, as the relay desk names it')}
      {field('from', 'From, UTC', 'hours.from')}
      {field('until', 'Until, UTC', 'hours.until')}
      {field('most', 'At most, an hour', 'mostPerHour')}
      {keep.isError ? (
        <Notice kind="alarm" title="Not kept; what you entered is still here">
          {keep.error.message}
        </Notice>
      ) : null}
      <Row wrap gap={8}>
        <Button
          title={before ? 'Keep it, turned off' : 'Add it, turned off'}
          disabled={checked.success ? false : 'Something above is missing or not right yet.'}
          busy={keep.isPending}
          onPress={() => keep.mutate(rule, { onSuccess: () => (done ? done() : setEntry(BLANK)) })}
        />
        {done ? <Button title="Cancel" kind="plain" onPress={done} /> : null}
      </Row>
    </Stack>
  );
}
