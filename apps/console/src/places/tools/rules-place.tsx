import type { StandingRule } from '@tombolo/contract';
import { useState } from 'react';
import { api } from '../../live/api';
import { useBearers, useChange, useSettings } from '../../live/queries';
import { relayApi, useRules } from '../../live/relays';
import { Button } from '../../ui/button';
import { CheckRow, Choice } from '../../ui/choice';
import { Row, Stack } from '../../ui/layout';
import { Empty, Notice, Page, Trouble, Waiting } from '../../ui/page';
import { RemoveButton } from '../../ui/remove-button';
import { Body, Heading } from '../../ui/text';
import { RuleForm } from './rule-form';

/** Standing rules: what is handed on by itself. Off until an operator turns each on. */
export function RulesPlace() {
  const rules = useRules();
  const bearers = useBearers();
  const turn = useChange(
    ({ id, enabled }: { id: string; enabled: boolean }) => relayApi.changeRule(id, { enabled }),
    ['rules'],
  );
  const [edited, edit] = useState<string | null>(null);
  const remove = useChange(relayApi.removeRule, ['rules']);
  const nameOf = (id: string) => bearers.data?.find((bearer) => bearer.id === id)?.name ?? 'a bearer that is gone';
  return (
    <Page title="Standing rules">
      <Body soft below={12}>
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
        <Stack key={rule.id} padY={10} ruled gap={4}>
          <CheckRow
            label={rule.name}
            checked={rule.enabled}
            onChange={(enabled) => turn.mutate({ id: rule.id, enabled })}
            hint={ruleWords(rule, nameOf)}
          />
          <Row wrap gap={8}>
            {edited === rule.id ? null : (
              <Button title="Change" about={rule.name} kind="plain" onPress={() => edit(rule.id)} />
            )}
            <RemoveButton about={rule.name} onRemove={() => remove.mutate(rule.id)} />
          </Row>
          {edited === rule.id ? <RuleForm rule={rule} done={() => edit(null)} /> : null}
        </Stack>
      ))}
      {turn.isError || remove.isError ? (
        <Notice kind="alarm" title="That did not work">
          {(turn.error ?? remove.error)!.message}
        </Notice>
      ) : null}
      <RuleForm />
      <Unanswered />
    </Page>
  );
}

/** A rule in one sentence. */
export const ruleWords = (rule: StandingRule, nameOf: (id: string) => string): string =>
  `${rule.senders.length > 0 ? `From ${rule.senders.join(', ')}` : 'From everybody'} on ${nameOf(rule.fromBearer)} to ${rule.to} by ${nameOf(rule.toBearer)}, ${rule.hours.from} to ${rule.hours.until} UTC, at most ${rule.mostPerHour} an hour. ${rule.enabled ? 'On.' : 'Off.'}`;

const PATIENCE = ['never', '2', '5', '15'] as const;
type Patience = (typeof PATIENCE)[number];

/** What becomes by itself of a text that nobody answers: another path, another bearer, or nothing. */
function Unanswered() {
  const settings = useSettings();
  const keep = useChange(api.changeSettings, ['settings']);
  if (!settings.data) return null;
  const { otherPathMin, otherBearerMin } = settings.data;
  return (
    <Stack above={24}>
      <Heading level={2}>A text that nobody answers</Heading>
      <Body soft below={8}>
        By packet radio it can go on by another path, once, where that one is clearly surer by what was heard and tried.
        The first path is no longer tried then. The number stays: should both arrive, whoever goes by it shows one.
      </Body>
      <PatienceChoice
        label="Go on by a surer path"
        minutes={otherPathMin}
        change={(minutes) => keep.mutate({ otherPathMin: minutes })}
      />
      <Body soft above={16} below={8}>
        A text can be written again for another bearer that sends by itself, once, where somebody of your list of people
        is clearly more likely reached so and nothing stands against it. The first is no longer tried then, nor the
        second once the first is answered after all. They are two texts, and both may arrive. What your rules let you
        say on that other bearer is yours to know.
      </Body>
      <PatienceChoice
        label="Go on by another bearer"
        minutes={otherBearerMin}
        change={(minutes) => keep.mutate({ otherBearerMin: minutes })}
      />
      {keep.isError ? (
        <Notice kind="alarm" title="That did not work">
          {keep.error.message}
        </Notice>
      ) : null}
    </Stack>
  );
}

interface PatienceChoiceProps {
  label: string;
  minutes: number | null;
  change: (minutes: number | null) => void;
}

/** After how many minutes without an answer, or never by itself. */
function PatienceChoice({ label, minutes, change }: PatienceChoiceProps) {
  const shown = minutes === null ? 'never' : String(minutes);
  // Whoever set another figure elsewhere sees it here.
  const offered: readonly string[] = PATIENCE.includes(shown as Patience) ? PATIENCE : [...PATIENCE, shown];
  return (
    <Choice<string>
      label={label}
      value={shown}
      onChange={(chosen) => change(chosen === 'never' ? null : Number(chosen))}
      options={offered.map((id) => ({
        id,
        title: id === 'never' ? 'Never by itself' : `After ${id} minutes without an answer`,
      }))}
    />
  );
}
