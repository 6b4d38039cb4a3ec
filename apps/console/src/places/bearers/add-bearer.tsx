import { zodResolver } from '@hookform/resolvers/zod';
import { bearerKind, sendsPackets, type BearerKindId } from '@tombolo/contract';
import { useState } from 'react';
import { Controller, useForm, useWatch } from 'react-hook-form';
import { consoleKind, consoleKinds } from '../../bearers/registry';
import { api } from '../../live/api';
import { useBearers, useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { Choice } from '../../ui/choice';
import { toFirstFault } from '../../ui/faults';
import { Row, Stack } from '../../ui/layout';
import { Notice } from '../../ui/page';
import { Body, Heading } from '../../ui/text';
import { BearerFields } from './bearer-fields';
import { bearerForm, bearerOf, blankBearer, type BearerEntry, type BearerForm } from './bearer-form';

/** What it takes and what it can prove, before it is added. */
function promises(id: BearerKindId): string {
  const { sends, mostTextOctets, proves, amateurBand } = bearerKind(id);
  if (sends === 'nothing') return 'Nothing goes out by it.';
  return [
    mostTextOctets === null ? 'Texts as long as you have patience for.' : `Texts of at most ${mostTextOctets} octets.`,
    proves === null ? 'It proves nothing by itself.' : `What it can prove at best: ${proves}.`,
    amateurBand ? 'On an amateur band: it needs a licence, and everybody can read it.' : '',
  ]
    .filter((part) => part !== '')
    .join(' ');
}

/** A new bearer: what it is and where. */
export function AddBearer() {
  const [open, setOpen] = useState(false);
  const bearers = useBearers();
  const modem = bearers.data?.find(({ config }) => sendsPackets(config));
  const kinds = consoleKinds();
  const { control, handleSubmit, reset, setValue } = useForm<BearerForm, unknown, BearerEntry>({
    resolver: zodResolver(bearerForm),
    defaultValues: blankBearer(),
  });
  const kind = useWatch({ control, name: 'kind' }) as BearerKindId;
  const { overModem = false } = consoleKind(kind).form;
  const add = useChange(api.addBearer, ['bearers']);
  const submit = () => {
    setValue('over', modem?.id ?? '');
    return handleSubmit(
      (values) =>
        add.mutate(bearerOf(values), {
          onSuccess: () => {
            reset();
            setOpen(false);
          },
        }),
      toFirstFault,
    )();
  };
  if (!open)
    return (
      <Stack above={16} align="start">
        <Button title="Add a bearer" icon="plus" kind="plain" onPress={() => setOpen(true)} />
      </Stack>
    );
  return (
    <Stack above={16}>
      <Heading level={2}>A new bearer</Heading>
      <Controller
        control={control}
        name="kind"
        render={({ field: { value, onChange } }) => (
          <Choice label="What is it" value={value} onChange={onChange} options={kinds} />
        )}
      />
      <Body soft below={12}>
        {promises(kind)}
      </Body>
      <BearerFields control={control} kind={kind} />
      {overModem && bearers.data ? (
        modem ? (
          <Body soft below={12}>{`Called over ${modem.name}.`}</Body>
        ) : (
          <Notice title="No modem yet">It is called over a modem: add that first.</Notice>
        )
      ) : null}
      {add.isError ? (
        <Notice kind="alarm" title="Not added">
          {add.error.message}
        </Notice>
      ) : null}
      <Row gap={8}>
        <Button
          title={overModem ? 'Add it' : 'Add and connect'}
          onPress={() => void submit()}
          busy={add.isPending}
          disabled={overModem && !modem ? 'It goes over a modem: add one first.' : false}
        />
        <Button title="Cancel" kind="plain" onPress={() => setOpen(false)} />
      </Row>
    </Stack>
  );
}
