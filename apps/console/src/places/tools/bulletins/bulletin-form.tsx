import { ownBulletinChange, type BearerView, type OwnBulletinChange, type OwnBulletinView } from '@tombolo/contract';
import { habitOf, MAX_MESSAGE_TEXT, octetsOfText, readWhole } from '@tombolo/core';
import { useState } from 'react';
import { StationProblem } from '../../../live/ask';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { Row, Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { usePaths } from '../position/use-paths';
import { bulletinsAtStation } from './at-station';
import { ownLineWords } from './line-words';

const HOUR_MS = 3_600_000;
const MOST_H = 168;

/** A new bulletin, or one that is changed or told again. */
export function BulletinForm({
  bulletin,
  modems,
  leave,
}: {
  bulletin: OwnBulletinView | null;
  modems: readonly BearerView[];
  leave: () => void;
}) {
  const again = bulletin?.live === false;
  // One that is over stays as it was on record.
  const [id] = useState(() => (bulletin && !again ? bulletin.id : crypto.randomUUID()));
  const [line, setLine] = useState(bulletin?.line ?? '1');
  const [group, setGroup] = useState(bulletin?.group ?? '');
  const [text, setText] = useState(bulletin?.text ?? '');
  /** What was entered; the habit of its line until then. */
  const [everyMin, setEvery] = useState<string | null>(bulletin ? String(bulletin.everyMin) : null);
  const [forH, setFor] = useState<string | null>(null);
  const modem = modems.find((one) => one.id === bulletin?.bearerId) ?? modems[0]!;
  const { paths, usual } = usePaths(modem);
  const [chosen, setPath] = useState<string | null>(bulletin ? bulletin.path.join(',') : null);
  const path = chosen ?? usual;
  const [tried, setTried] = useState(false);
  const keep = useChange(bulletinsAtStation.keep, ['bulletins', 'transmissions']);
  const habit = habitOf(line.trim().toUpperCase());
  const every = everyMin ?? String(habit.everyMin);
  const hours = forH ?? String(habit.forH);
  const hoursRead = readWhole(hours);
  const hoursFit = hoursRead >= 1 && hoursRead <= MOST_H;
  const wanted = (until: string): OwnBulletinChange => ({
    line,
    group,
    text: text.replace(/\s+/g, ' '),
    bearerId: modem.id,
    path: path.split(',').filter(Boolean),
    everyMin: readWhole(every),
    until,
    revision: bulletin && !again ? bulletin.revision : null,
  });
  const read = ownBulletinChange.safeParse(wanted(new Date(0).toISOString()));
  const fault = (field: string) =>
    tried ? read.error?.issues.find(({ path: at }) => at[0] === field)?.message : undefined;
  const submit = (replace: boolean) => {
    setTried(true);
    if (!read.success || !hoursFit) return;
    const until = new Date(Date.now() + hoursRead * HOUR_MS).toISOString();
    keep.mutate({ id, ...wanted(until), replace }, { onSuccess: leave });
  };
  const used = keep.error instanceof StationProblem && keep.error.code === 'line-used';
  const name = ownLineWords({ line: line.trim().toUpperCase(), group: group.trim().toUpperCase() });
  return (
    <Stack above={16}>
      <Heading level={2}>
        {bulletin ? `${again ? 'Tell again' : 'Change'}: ${ownLineWords(bulletin)}` : 'Write a bulletin'}
      </Heading>
      <Field
        label="Line"
        mono
        autoCapitalize="characters"
        maxLength={1}
        value={line}
        onChangeText={setLine}
        error={fault('line')}
        hint="0 to 9 for a bulletin, read by line and told for hours; A to Z for an announcement, told for days"
      />
      <Field
        label="Group"
        mono
        autoCapitalize="characters"
        maxLength={5}
        value={group}
        onChangeText={setGroup}
        error={fault('group')}
        hint="Up to five letters or digits, for those who read that group; empty for everybody"
      />
      <Field
        label="Text"
        value={text}
        onChangeText={setText}
        multiline
        error={fault('text')}
        hint={`${octetsOfText(text).length} of ${MAX_MESSAGE_TEXT} characters. Nobody acknowledges it: what is heard repeated is all that can be known.`}
      />
      <Field
        label="Told again every, min"
        mono
        inputMode="numeric"
        value={every}
        onChangeText={setEvery}
        error={fault('everyMin')}
        hint="5 to 240; 20 is usual for a bulletin, 60 for an announcement"
      />
      <Field
        label="For how long, h"
        mono
        inputMode="numeric"
        value={hours}
        onChangeText={setFor}
        error={tried && !hoursFit ? `1 to ${MOST_H} whole hours` : undefined}
        hint="From now on; then it ends by itself"
      />
      <Choice<string> label="Path" value={path} onChange={setPath} options={paths} />
      {keep.isError ? (
        <Notice kind="alarm" title={keep.error instanceof StationProblem ? keep.error.title : 'Not kept'}>
          <Body>{keep.error.message}</Body>
          {used ? (
            <Button title="Put it in its place" kind="plain" busy={keep.isPending} onPress={() => submit(true)} />
          ) : null}
        </Notice>
      ) : null}
      <Row wrap gap={8}>
        <Button
          title={read.success ? `Tell everybody: ${name}, every ${every} min` : 'Tell everybody'}
          busy={keep.isPending}
          onPress={() => submit(false)}
        />
        <Button title="Cancel" kind="plain" onPress={leave} />
      </Row>
      <Body soft above={8}>
        Everybody can read it, and nothing on the air takes it back from those who heard it. Each time costs the channel
        its air time with every digipeater of the path.
      </Body>
    </Stack>
  );
}
