import { locksOf, type BeaconPlan, type BearerView, type Settings } from '@tombolo/contract';
import {
  MOST_MOVING_COMMENT_OCTETS,
  MOST_VOICE_GATEWAY_COMMENT_OCTETS,
  octetsOfText,
  type BeaconScheme,
} from '@tombolo/core';
import { useState } from 'react';
import { TransmitQuestions } from '../../../bearers/transmit-questions';
import { api } from '../../../live/api';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Heading } from '../../../ui/text';
import { planReport } from '../position/plan';
import { usePaths } from '../position/use-paths';
import { Cost } from './cost';
import { TrackComparison } from './track-comparison';
import { readPlan, writtenOf, type WrittenPlan } from './written-plan';

type By = BeaconScheme['by'];
const SCHEMES = [
  {
    id: 'error',
    title: 'When others reckon wrong',
    hint: 'At a turn at once, on a straight road seldom, at rest hardly ever.',
  },
  { id: 'distance', title: 'After so much way', hint: 'The same on a straight road and in a street.' },
  { id: 'time', title: 'After so much time', hint: 'For a station that stays: every half hour is usual.' },
] as const satisfies readonly { id: By; title: string; hint: string }[];

interface PlanFormProps {
  modem: BearerView;
  settings: Settings;
  plan: BeaconPlan | null;
}

/** How long a comment is, and where it would be cut off on its way. */
function commentWords(comment: string): string {
  const octets = octetsOfText(comment).length;
  const words = `${octets} of ${MOST_MOVING_COMMENT_OCTETS} octets; each costs air time in every report`;
  return octets <= MOST_VOICE_GATEWAY_COMMENT_OCTETS
    ? words
    : `${words}. Some digital-voice gateways pass the first ${MOST_VOICE_GATEWAY_COMMENT_OCTETS} alone: “${comment.slice(0, MOST_VOICE_GATEWAY_COMMENT_OCTETS)}”`;
}

/** The plan, what it costs the channel, and what others would see of a track. */
export function PlanForm({ modem, settings, plan }: PlanFormProps) {
  const [written, setWritten] = useState(() => writtenOf(plan));
  const change = (more: Partial<WrittenPlan>) => setWritten({ ...written, ...more });
  const { paths, usual } = usePaths(modem);
  const [chosen, setPath] = useState<string | null>(plan?.path.join(',') ?? null);
  const path = chosen ?? usual;
  const [tried, setTried] = useState(false);
  const keep = useChange((beacon: BeaconPlan) => api.changeSettings({ beacon }), ['settings', 'beacon']);
  const read = readPlan(written, {
    bearerId: modem.id,
    path: path.split(',').filter(Boolean),
    ambiguity: plan?.ambiguity,
  });
  const faults = 'faults' in read ? read.faults : {};
  const valid = 'plan' in read ? read.plan : null;
  const field = (key: keyof WrittenPlan, label: string, hint?: string) => (
    <Field
      label={label}
      hint={hint}
      mono={key !== 'comment'}
      autoCapitalize={key === 'farPath' ? 'characters' : undefined}
      value={written[key]}
      onChangeText={(text) => change({ [key]: text })}
      error={tried || written[key] !== writtenOf(plan)[key] ? faults[key] : undefined}
    />
  );
  const locks = locksOf(modem.config.kind, settings);
  const report = planReport({ ambiguity: 0, comment: written.comment, path: valid?.path ?? [] }, settings, modem);
  const start = () => {
    setTried(true);
    if (valid) keep.mutate(valid);
  };
  return (
    <Stack above={16}>
      <Heading level={2}>{plan ? 'Change the plan' : 'A plan'}</Heading>
      <Choice<By> label="When it goes out" options={SCHEMES} value={written.by} onChange={(by) => change({ by })} />
      {written.by === 'time' ? field('everyMin', 'Every, min') : null}
      {written.by === 'distance' ? field('everyM', 'After so many metres') : null}
      {written.by === 'error'
        ? field('withinM', 'Off by so many metres', 'From our last report others carry on course and speed.')
        : null}
      {written.by === 'time' ? null : (
        <>
          {field('leastS', 'Least interval, s')}
          {field('mostMin', 'Greatest interval, min')}
        </>
      )}
      {field('comment', 'Comment', commentWords(written.comment))}
      <Choice<string> label="Path" options={paths} value={path} onChange={setPath} />
      {field(
        'farPath',
        'Far path',
        'Another path, now and then alone: who is far away hears of us too. Empty for none',
      )}
      {written.farPath.trim() === '' ? null : field('farNth', 'Every so many reports', '2 to 20')}
      {valid ? <Cost scheme={valid.scheme} path={valid.path} airTimeS={report.airTimeS} modem={modem} /> : null}
      {valid ? <TrackComparison scheme={valid.scheme} /> : null}
      {locks.length > 0 ? <TransmitQuestions settings={settings} /> : null}
      {keep.isError ? (
        <Notice kind="alarm" title="Not kept">
          {keep.error.message}
        </Notice>
      ) : null}
      <Stack align="start" above={8}>
        <Button
          title={plan ? 'Go on by this plan' : 'Send by this plan'}
          busy={keep.isPending}
          disabled={locks.length > 0 ? locks[0] : false}
          onPress={start}
        />
      </Stack>
    </Stack>
  );
}
