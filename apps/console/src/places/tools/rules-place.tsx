import { bearerKind, newStandingRule, type StandingRule } from '@tombolo/contract';
import { readWhole } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { api } from '../../live/api';
import { useBearers, useChange, useRules } from '../../live/queries';
import { Button } from '../../ui/button';
import { CheckRow, Choice } from '../../ui/choice';
import { Field } from '../../ui/field';
import { useLook } from '../../ui/look';
import { Empty, Notice, Page, Trouble, Waiting } from '../../ui/page';
import { RemoveButton } from '../../ui/remove-button';
import { Body, Heading } from '../../ui/text';

/** Standing rules: what is handed on by itself. Off until an operator turns each on. */
export function RulesPlace() {
  const rules = useRules();
  const bearers = useBearers();
  const look = useLook();
  const turn = useChange(({ id, enabled }: { id: string; enabled: boolean }) => api.turnRule(id, enabled), ['rules']);
  const remove = useChange(api.removeRule, ['rules']);
  const nameOf = (id: string) => bearers.data?.find((bearer) => bearer.id === id)?.name ?? 'a bearer that is gone';
  return (
    <Page title="Standing rules">
      <Body soft style={{ marginBottom: 12 }}>
        A rule hands items on without you. Automatic relay needs a responsible operator: whoever turns a rule on answers
        for what it sends. The same guards hold – loops, floods, encryption.
      </Body>
      {rules.isPending ? <Waiting what="rules" /> : null}
      {rules.isError ? <Trouble error={rules.error} retry={() => void rules.refetch()} /> : null}
      {rules.data?.length === 0 ? (
        <Empty icon="transfer-right" title="No rule yet">
          Everything waits for you at the relay desk of each item. A rule can take over what always goes the same way.
        </Empty>
      ) : null}
      {rules.data?.map((rule) => (
        <View key={rule.id} style={{ paddingVertical: 10, borderBottomWidth: 1, borderBottomColor: look.rule, gap: 4 }}>
          <CheckRow
            label={rule.name}
            checked={rule.enabled}
            onChange={(enabled) => turn.mutate({ id: rule.id, enabled })}
            hint={ruleWords(rule, nameOf)}
          />
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
            <RemoveButton about={rule.name} onRemove={() => remove.mutate(rule.id)} />
          </View>
        </View>
      ))}
      {turn.isError || remove.isError ? (
        <Notice kind="alarm" title="That did not work">
          {(turn.error ?? remove.error)!.message}
        </Notice>
      ) : null}
      <AddRule />
    </Page>
  );
}

/** A rule in one sentence. */
export const ruleWords = (rule: StandingRule, nameOf: (id: string) => string): string =>
  `${rule.senders.length > 0 ? `From ${rule.senders.join(', ')}` : 'From everybody'} on ${nameOf(rule.fromBearer)} to ${rule.to} by ${nameOf(rule.toBearer)}, ${rule.hours.from} to ${rule.hours.until} UTC, at most ${rule.mostPerHour} an hour. ${rule.enabled ? 'On.' : 'Off.'}`;

const BLANK = { name: '', senders: '', to: '', from: '06:00', until: '22:00', most: '6' };

function AddRule() {
  const bearers = useBearers();
  const [entry, setEntry] = useState(BLANK);
  const [fromBearer, setFrom] = useState<string | null>(null);
  const [toBearer, setTo] = useState<string | null>(null);
  const add = useChange(api.addRule, ['rules']);
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
    <View style={{ marginTop: 20 }}>
      <Heading level={2}>Add a rule</Heading>
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
      {add.isError ? (
        <Notice kind="alarm" title="Not added">
          {add.error.message}
        </Notice>
      ) : null}
      <View style={{ alignItems: 'flex-start' }}>
        <Button
          title="Add it, turned off"
          disabled={checked.success ? false : 'Something above is missing or not right yet.'}
          busy={add.isPending}
          onPress={() => add.mutate(rule, { onSuccess: () => setEntry(BLANK) })}
        />
      </View>
    </View>
  );
}
