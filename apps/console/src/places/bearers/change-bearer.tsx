import { zodResolver } from '@hookform/resolvers/zod';
import { bearerKind, type BearerView } from '@tombolo/contract';
import { useForm } from 'react-hook-form';
import { api } from '../../live/api';
import { useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { toFirstFault } from '../../ui/faults';
import { Row, Stack } from '../../ui/layout';
import { Notice } from '../../ui/page';
import { Body, Heading } from '../../ui/text';
import { BearerFields } from './bearer-fields';
import { bearerForm, changedConfig, formOfBearer, type BearerEntry, type BearerForm } from './bearer-form';

/** A bearer as it is set, to be set otherwise. Its kind stays: another kind is another bearer. */
export function ChangeBearer({ bearer, done }: { bearer: BearerView; done: () => void }) {
  const { control, handleSubmit } = useForm<BearerForm, unknown, BearerEntry>({
    resolver: zodResolver(bearerForm),
    defaultValues: formOfBearer(bearer),
  });
  const change = useChange(
    (entry: BearerEntry) =>
      api.changeBearer(bearer.id, changedConfig(bearer.config, entry), entry.texts.name ?? bearer.name),
    ['bearers'],
  );
  return (
    <Stack above={8}>
      <Heading level={3}>{`Change ${bearer.name}`}</Heading>
      <Body soft around={8}>
        {`It is connected anew with what you change.${bearerKind(bearer.config.kind).secrets ? ' Passwords and keys are not shown: leave them empty and they stay.' : ''}`}
      </Body>
      <BearerFields control={control} kind={bearer.config.kind} />
      {change.isError ? (
        <Notice kind="alarm" title="Not changed; what you entered is still here">
          {change.error.message}
        </Notice>
      ) : null}
      <Row wrap gap={8}>
        <Button
          title="Save the bearer"
          busy={change.isPending}
          onPress={() => void handleSubmit((entry) => change.mutate(entry, { onSuccess: done }), toFirstFault)()}
        />
        <Button title="Cancel" kind="plain" onPress={done} />
      </Row>
    </Stack>
  );
}
