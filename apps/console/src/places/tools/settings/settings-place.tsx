import { zodResolver } from '@hookform/resolvers/zod';
import { formatMHz, locatorOf, readWhole, REGIONS, SOONEST_OVER_DIGIPEATERS_S, type RegionId } from '@tombolo/core';
import type { Settings } from '@tombolo/contract';
import { Controller, useForm, useWatch } from 'react-hook-form';
import { TransmitQuestions } from '../../../bearers/transmit-questions';
import { api } from '../../../live/api';
import { useChange, useSettings } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { CheckRow, Choice } from '../../../ui/choice';
import { Faults, toFirstFault } from '../../../ui/faults';
import { Stack } from '../../../ui/layout';
import { useUnsaved } from '../../../ui/unsaved';
import { Notice, Page, Rule, Trouble, Waiting } from '../../../ui/page';
import { TermHelp } from '../../../ui/terms';
import { Body, Heading } from '../../../ui/text';
import { AutomaticAnswer } from './auto-answer';
import { symbolsWith, TakeFromDevice, TextRow } from './fields';
import { changeOf, form, type Form, formOf, LABELS } from './form';
import { readPlace } from './place';
import { ThisDevice } from './this-device';

export function SettingsPlace() {
  const settings = useSettings();
  return (
    <Page title="Settings">
      {settings.isPending ? <Waiting what="settings" /> : null}
      {settings.isError ? <Trouble error={settings.error} retry={() => void settings.refetch()} /> : null}
      {settings.data ? <SettingsForm settings={settings.data} /> : null}
      {settings.data ? (
        <>
          <Rule />
          <AutomaticAnswer key={JSON.stringify(settings.data.autoAnswer)} settings={settings.data} />
        </>
      ) : null}
      <Rule />
      <ThisDevice />
    </Page>
  );
}

/** The operator and the station; equipment has its settings on the cards of the bearers. */
export function SettingsForm({ settings }: { settings: Settings }) {
  const entry = useForm<Form>({
    resolver: zodResolver(form),
    defaultValues: formOf(settings),
    mode: 'onTouched',
  });
  const { control, handleSubmit, setValue, reset, formState } = entry;
  useUnsaved('settings', entry);
  const save = useChange(api.changeSettings, ['settings', 'stations']);
  const submit = handleSubmit(
    (values) => save.mutate(changeOf(values, settings), { onSuccess: (saved) => reset(formOf(saved)) }),
    toFirstFault,
  );
  const place = readPlace(useWatch({ control, name: 'place' }));
  const firstS = useWatch({ control, name: 'firstS' });
  const tooSoon = firstS.trim() !== '' && readWhole(firstS) < SOONEST_OVER_DIGIPEATERS_S;
  return (
    <>
      <Heading level={2}>Operator</Heading>
      <TextRow control={control} name="call" hint="As your licence has it, without SSID" />
      <TextRow control={control} name="ssid" hint="0 to 15; by habit 7 is a hand-held, 9 a car, 10 a gateway" />
      <TermHelp term="SSID" />
      <Rule />
      <TransmitQuestions settings={settings} />
      <Rule />
      <Heading level={2}>Station</Heading>
      <TextRow
        control={control}
        name="place"
        hint={
          place.ok && place.position
            ? `Locator ${locatorOf(place.position)}. Nothing is beaconed; others learn it only from answers that you allow.`
            : 'Decimal degrees or a locator; empty for none'
        }
      />
      <TakeFromDevice
        onPlace={(text) => setValue('place', text, { shouldValidate: true, shouldDirty: true, shouldTouch: true })}
      />
      <Controller
        control={control}
        name="region"
        render={({ field: { value, onChange } }) => (
          <Choice<RegionId>
            label="Region"
            value={value}
            onChange={onChange}
            options={REGIONS.map((region) => ({
              id: region.id,
              title: region.name,
              hint:
                region.packetMHz === null
                  ? 'The local plan says on which frequency packets are sent.'
                  : `Packets on ${formatMHz(region.packetMHz)} MHz by custom; the local plan comes first.`,
            }))}
          />
        )}
      />
      <TextRow
        control={control}
        name="voice"
        hint="Where you listen for voice; said in a voice alert. Empty for none"
      />
      <Body soft>Frequency, transmit delay and usual path belong to a modem: they are set on its card.</Body>
      <Stack align="start">
        <Button title="Go to Bearers" kind="plain" href="/bearers" />
      </Stack>
      <Rule />
      <Heading level={2}>Answers to other stations</Heading>
      <Controller
        control={control}
        name="answerQueries"
        render={({ field: { value, onChange } }) => (
          <CheckRow
            label="Answer questions of other stations automatically"
            hint="Where you are, whom you hear direct, over which path they came: one packet each, sent once. Off unless you allow it."
            checked={value}
            onChange={onChange}
          />
        )}
      />
      <Controller
        control={control}
        name="symbol"
        render={({ field: { value, onChange } }) => (
          <Choice<string> label="Shown to others as" value={value} onChange={onChange} options={symbolsWith(value)} />
        )}
      />
      <TextRow
        control={control}
        name="statusText"
        hint="Told to whoever asks, with the voice frequency; empty for nothing"
        mono={false}
      />
      <Rule />
      <Heading level={2}>Tries</Heading>
      <TextRow control={control} name="firstS" hint="Doubles each time, up to ten minutes" />
      {tooSoon ? (
        <Notice title="Too soon for digipeaters">{`Digipeaters drop what they repeated in the last 30 s: a retry sooner than ${SOONEST_OVER_DIGIPEATERS_S} s is heard by nobody behind them.`}</Notice>
      ) : null}
      <TextRow
        control={control}
        name="tries"
        hint="Then the text is marked as not acknowledged. So many, where nothing was reckoned"
      />
      <TextRow
        control={control}
        name="mostTries"
        hint="Where the ways under a text tell whether one more is worth its air time. Priority and emergency take all of them"
      />
      <TextRow
        control={control}
        name="storeLimit"
        hint="Beyond that, and beyond 20 of one stranger, they are shown as not taken. People you know always get in"
      />
      <Rule />
      <Heading level={2}>Air time without a key pressed</Heading>
      <TextRow
        control={control}
        name="automaticAirS"
        hint="Acknowledgements, rejections, answers, refusals of connections"
      />
      <TextRow control={control} name="automaticAirPerStationS" hint="By the call that it gives" />
      {save.isError ? (
        <Notice kind="alarm" title="Not saved">
          {save.error.message}
        </Notice>
      ) : null}
      <Faults errors={formState.errors} tried={formState.isSubmitted} labels={LABELS} />
      {save.isSuccess && !formState.isDirty ? <Notice title="Saved" /> : null}
      <Stack above={8}>
        <Button
          title="Save settings"
          onPress={() => void submit()}
          busy={save.isPending}
          disabled={formState.isDirty ? false : 'Nothing was changed.'}
        />
      </Stack>
    </>
  );
}
