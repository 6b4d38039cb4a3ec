import { LEAST_PASSPHRASE, type BackupView } from '@tombolo/contract';
import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { View } from 'react-native';
import { z } from 'zod';
import { useChange } from '../../live/queries';
import { backupApi, useBackups } from '../../live/backups';
import { Button } from '../../ui/button';
import { Instant } from '../../ui/clock';
import { toFirstFault } from '../../ui/faults';
import { FormField } from '../../ui/form-field';
import { Stack } from '../../ui/layout';
import { Empty, Notice, Page, Rule, Trouble, Waiting } from '../../ui/page';
import { octetsInWords } from '../../ui/quantity';
import { Body, Heading } from '../../ui/text';
import { saveFile } from '../log/save';
import { BackupPlan } from './backup-plan';

const form = z
  .object({
    passphrase: z.string().min(LEAST_PASSPHRASE, `at least ${LEAST_PASSPHRASE} characters`),
    again: z.string(),
  })
  .refine(({ passphrase, again }) => passphrase === again, { path: ['again'], message: 'the two are not the same' });
type Form = z.infer<typeof form>;

/** Everything in one file, sealed under a passphrase. */
export function BackupPlace() {
  const backups = useBackups();
  const make = useChange(backupApi.makeBackup, ['backups']);
  const { control, handleSubmit, reset } = useForm<Form>({
    resolver: zodResolver(form),
    defaultValues: { passphrase: '', again: '' },
  });
  const running = backups.data?.some(({ finishedAt }) => finishedAt === null) ?? false;
  const field = (name: keyof Form, label: string, hint?: string) => (
    <FormField control={control} name={name} label={label} hint={hint} secret />
  );
  return (
    <Page title="Backup">
      <Body below={12}>
        Items with their evidence, everything heard, maps, people, settings, and the keys and passwords of your bearers:
        all in one file. It is restored into a scratch database and compared before it is offered.
      </Body>
      {field('passphrase', 'Passphrase', 'Nobody can open the file without it, and nobody can replace it')}
      {field('again', 'The same once more')}
      {make.isError ? (
        <Notice kind="alarm" title="No backup was begun">
          {make.error.message}
        </Notice>
      ) : null}
      <Button
        title="Make a backup"
        icon="archive-lock-outline"
        busy={make.isPending || running}
        onPress={() =>
          void handleSubmit(({ passphrase }) => make.mutate(passphrase, { onSuccess: () => reset() }), toFirstFault)()
        }
      />
      <Rule />
      <BackupPlan />
      <Rule />
      <Heading level={2}>Made so far</Heading>
      {backups.isPending ? <Waiting what="backups" /> : null}
      {backups.isError ? <Trouble error={backups.error} retry={() => void backups.refetch()} /> : null}
      {backups.data?.length === 0 ? (
        <Empty icon="archive-lock-outline" title="No backup yet">
          Each that was made is listed here, with whether it was verified. Its file can be saved for an hour.
        </Empty>
      ) : null}
      <View role="list" aria-label="Backups">
        {backups.data?.map((backup) => (
          <BackupRow key={backup.id} backup={backup} />
        ))}
      </View>
      <Body soft above={16}>
        To restore: stop the program, then “npm run restore -- FILE”. It first tells what is in the backup; what was
        waiting to go out is held until you let it go.
      </Body>
    </Page>
  );
}

function BackupRow({ backup }: { backup: BackupView }) {
  const size = backup.octets === null ? '' : `, ${octetsInWords(backup.octets)}`;
  return (
    <Stack role="listitem" padY={10} ruled gap={4} align="start">
      <Instant iso={backup.startedAt} />
      <Body bold={backup.verified}>
        {backup.finishedAt === null
          ? 'Being made and verified…'
          : backup.verified
            ? `Verified: restored on trial, and the same${size}`
            : 'Not made'}
      </Body>
      {backup.problem ? (
        <Notice kind="alarm" title="It failed">
          {backup.problem}
        </Notice>
      ) : null}
      {backup.ready ? (
        <Button
          title="Save the file"
          icon="download-outline"
          onPress={() => saveFile(backupApi.backupUrl(backup.id))}
        />
      ) : null}
    </Stack>
  );
}
