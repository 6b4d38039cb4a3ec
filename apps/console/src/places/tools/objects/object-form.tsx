import { ownObjectChange, type BearerView, type OwnObject, type OwnObjectChange } from '@tombolo/contract';
import {
  degreesAndMinutes,
  locatorOf,
  MOST_POSITION_COMMENT_OCTETS,
  OBJECT_SYMBOLS,
  octetsOfText,
  readTypedPosition,
  readWhole,
  symbolInWords,
  symbolOf,
} from '@tombolo/core';
import { useState } from 'react';
import { StationProblem } from '../../../live/ask';
import { usePositionNow, useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { Row, Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body, Heading, Mono } from '../../../ui/text';
import { usePaths } from '../position/use-paths';
import { degreesOf } from '../settings/place';
import { objectsAtStation } from './at-station';

const EVERY_MIN = 10;

/** A new thing, or one that is moved or changed. */
export function ObjectForm({
  thing,
  modems,
  leave,
}: {
  thing: OwnObject | null;
  modems: readonly BearerView[];
  leave: () => void;
}) {
  const here = usePositionNow().data?.position ?? null;
  const [id] = useState(() => thing?.id ?? crypto.randomUUID());
  const [form, setForm] = useState<OwnObject['form']>(thing?.form ?? 'object');
  const [name, setName] = useState(thing?.name ?? '');
  const [place, setPlace] = useState(thing ? degreesOf(thing) : '');
  const [symbol, setSymbol] = useState<string>(thing?.symbol ?? OBJECT_SYMBOLS[0]);
  const [comment, setComment] = useState(thing?.comment ?? '');
  const [everyMin, setEvery] = useState(String(thing?.everyMin ?? EVERY_MIN));
  const modem = modems.find((one) => one.id === thing?.bearerId) ?? modems[0]!;
  const { paths, usual } = usePaths(modem);
  const [chosen, setPath] = useState<string | null>(thing ? thing.path.join(',') : null);
  const path = chosen ?? usual;
  const [tried, setTried] = useState(false);
  const typed = readTypedPosition(place);
  const keep = useChange(objectsAtStation.keep, ['own objects', 'transmissions']);
  const wanted: OwnObjectChange = {
    form,
    name,
    // Without a place the complaint is at its field, and nothing is sent.
    ...(typed?.position ?? { latitude: 0, longitude: 0 }),
    symbol,
    comment,
    bearerId: modem.id,
    path: path.split(',').filter(Boolean),
    everyMin: readWhole(everyMin),
    revision: thing?.revision ?? null,
  };
  const read = ownObjectChange.safeParse(wanted);
  const fault = (field: string) =>
    tried ? read.error?.issues.find(({ path: at }) => at[0] === field)?.message : undefined;
  const submit = (takeOver: boolean) => {
    setTried(true);
    if (read.success && typed) keep.mutate({ id, ...wanted, takeOver }, { onSuccess: leave });
  };
  const reported = keep.error instanceof StationProblem && keep.error.code === 'reported';
  return (
    <Stack above={16}>
      <Heading level={2}>{thing ? `Move or change ${thing.name}` : 'Put something on the map'}</Heading>
      <Field
        label="Name"
        mono
        autoCapitalize="characters"
        value={name}
        onChangeText={setName}
        error={fault('name')}
        hint="Up to nine characters; by it everybody tells it from other things"
      />
      <Field
        label="Where"
        mono
        autoCapitalize="none"
        value={place}
        onChangeText={setPlace}
        error={tried && !typed ? 'no position in any of the usual forms' : undefined}
        hint="Degrees in any of the usual forms, a locator, the military grid or UTM"
      />
      {typed ? (
        <Body soft below={8}>
          {'That is '}
          <Mono soft>{`${degreesAndMinutes(typed.position)}, ${locatorOf(typed.position)}`}</Mono>
        </Body>
      ) : null}
      {here ? (
        <Stack align="start" below={12}>
          <Button title="Where we are" kind="plain" onPress={() => setPlace(degreesOf(here))} />
        </Stack>
      ) : null}
      <Choice<string>
        label="Drawn as"
        value={symbol}
        onChange={setSymbol}
        options={[...new Set([...OBJECT_SYMBOLS, symbol])].map((one) => {
          const of = symbolOf(one);
          return { id: one, title: of ? symbolInWords(of) : one };
        })}
      />
      <Field
        label="Comment"
        value={comment}
        onChangeText={setComment}
        error={fault('comment')}
        hint={`${octetsOfText(comment).length} of ${MOST_POSITION_COMMENT_OCTETS} octets`}
      />
      <Choice<OwnObject['form']>
        label="Form"
        value={form}
        onChange={setForm}
        options={[
          { id: 'object', title: 'Object', hint: 'Bears the time of each report: for what changes.' },
          { id: 'item', title: 'Item', hint: 'Without a time, three to nine characters: for what stays.' },
        ]}
      />
      <Field
        label="Told again every, min"
        mono
        inputMode="numeric"
        value={everyMin}
        onChangeText={setEvery}
        error={fault('everyMin')}
        hint="5 to 240; 10 is usual for what matters now, 30 for the rest"
      />
      <Choice<string> label="Path" value={path} onChange={setPath} options={paths} />
      {keep.isError ? (
        <Notice kind="alarm" title={keep.error instanceof StationProblem ? keep.error.title : 'Not kept'}>
          <Body>{keep.error.message}</Body>
          {reported ? (
            <Button title="We agreed: take it over" kind="plain" busy={keep.isPending} onPress={() => submit(true)} />
          ) : null}
        </Notice>
      ) : null}
      <Row wrap gap={8}>
        <Button
          title={thing ? 'Say so by radio' : `Put ${name || 'it'} on the map`}
          busy={keep.isPending}
          onPress={() => submit(false)}
        />
        <Button title="Cancel" kind="plain" onPress={leave} />
      </Row>
    </Stack>
  );
}
