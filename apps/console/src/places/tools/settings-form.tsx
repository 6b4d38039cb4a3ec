import { zodResolver } from '@hookform/resolvers/zod';
import {
  formatMHz,
  locatorOf,
  OWN_SYMBOLS,
  positionOfLocator,
  REGIONS,
  SOONEST_OVER_DIGIPEATERS_S,
  symbolInWords,
  symbolOf,
  type DistanceUnit,
  type RegionId,
} from '@tombolo/core';
import { ownCall, path as pathSchema, settings as settingsSchema, type Settings } from '@tombolo/contract';
import { Controller, useForm, useWatch } from 'react-hook-form';
import { useState } from 'react';
import { View } from 'react-native';
import { z } from 'zod';
import { api } from '../../live/api';
import { askDevice } from '../../live/device-position';
import { useChange, useSettings } from '../../live/queries';
import { Button } from '../../ui/button';
import { CheckRow, Choice } from '../../ui/choice';
import { Field } from '../../ui/field';
import { Notice, Page, Rule, Trouble, Waiting } from '../../ui/page';
import { TermHelp } from '../../ui/terms';
import { Heading } from '../../ui/text';
import { pathElements } from '../../bearers/packets/plan';
import { TransmitQuestions } from '../../bearers/transmit-questions';

const UNITS = [
  { id: 'km', title: 'Kilometres' },
  { id: 'mi', title: 'Miles' },
  { id: 'nmi', title: 'Nautical miles' },
] as const;

const wholeIn = (schema: z.ZodType<number>, what: string) =>
  z.string().refine((text) => schema.safeParse(Number(text)).success && text.trim() !== '', what);

/** The form holds texts; the contract's schemas judge what they mean. */
const form = z.object({
  call: ownCall,
  ssid: wholeIn(settingsSchema.shape.ssid, 'a number from 0 to 15'),
  region: settingsSchema.shape.region,
  frequency: z
    .string()
    .refine(
      (text) => text.trim() === '' || settingsSchema.shape.frequencyMHz.safeParse(Number(text)).success,
      'a frequency in MHz, such as 144.800',
    ),
  path: z.string().superRefine((text, context) => {
    const result = pathSchema.safeParse(pathElements(text));
    if (!result.success) context.addIssue({ code: 'custom', message: result.error.issues[0]?.message ?? 'not a path' });
  }),
  place: z.string().superRefine((text, context) => {
    const place = readPlace(text);
    if (!place.ok) context.addIssue({ code: 'custom', message: place.reason });
  }),
  firstS: wholeIn(settingsSchema.shape.retry.shape.firstS, 'seconds, from 1 to 3600'),
  tries: wholeIn(settingsSchema.shape.retry.shape.tries, 'a number from 1 to 20'),
  storeLimit: wholeIn(settingsSchema.shape.storeLimit, 'a number from 1 to 100000'),
  automaticAirS: wholeIn(settingsSchema.shape.automaticAirS, 'seconds, from 1 to 300'),
  automaticAirPerStationS: wholeIn(settingsSchema.shape.automaticAirPerStationS, 'seconds, from 1 to 300'),
  txDelayMs: wholeIn(settingsSchema.shape.txDelayMs, 'milliseconds, from 0 to 2550'),
  distanceUnit: settingsSchema.shape.distanceUnit,
  voice: z
    .string()
    .refine(
      (text) => text.trim() === '' || settingsSchema.shape.voiceMHz.safeParse(Number(text)).success,
      'a frequency in MHz, such as 146.520',
    ),
  answerQueries: z.boolean(),
  symbol: settingsSchema.shape.symbol,
  statusText: settingsSchema.shape.statusText,
});
type Form = z.input<typeof form>;

type Place = { ok: true; position: Settings['position'] } | { ok: false; reason: string };

/** Decimal degrees (`41.2690 -43.2850`) or a locator; empty for no position. */
export function readPlace(text: string): Place {
  const trimmed = text.trim();
  if (trimmed === '') return { ok: true, position: null };
  const degrees = /^(-?\d+(?:\.\d+)?)[\s,]+(-?\d+(?:\.\d+)?)$/.exec(trimmed);
  if (degrees) {
    const position = settingsSchema.shape.position.safeParse({
      latitude: Number(degrees[1]),
      longitude: Number(degrees[2]),
    });
    return position.success
      ? { ok: true, position: position.data }
      : { ok: false, reason: 'latitude from −90 to 90, longitude from −180 to 180' };
  }
  const locator = positionOfLocator(trimmed);
  return locator.ok
    ? { ok: true, position: locator.value }
    : { ok: false, reason: 'decimal degrees such as 41.2690 -43.2850, or a locator such as GN81ig' };
}

/** The usual symbols, and the one that is set should it be another. */
function symbolsWith(current: string) {
  const offered: readonly string[] = OWN_SYMBOLS;
  return [...new Set([...offered, current])].map((text) => {
    const symbol = symbolOf(text);
    return { id: text, title: symbol ? symbolInWords(symbol) : text };
  });
}

/** Four decimals are ten metres: nearer than any antenna needs to be known. */
const degreesOf = ({ latitude, longitude }: NonNullable<Settings['position']>): string =>
  `${latitude.toFixed(4)} ${longitude.toFixed(4)}`;

const formOf = (settings: Settings): Form => ({
  call: settings.call,
  ssid: String(settings.ssid),
  region: settings.region,
  frequency: settings.frequencyMHz === null ? '' : formatMHz(settings.frequencyMHz),
  path: settings.path.join(','),
  place: settings.position ? degreesOf(settings.position) : '',
  firstS: String(settings.retry.firstS),
  tries: String(settings.retry.tries),
  storeLimit: String(settings.storeLimit),
  automaticAirS: String(settings.automaticAirS),
  automaticAirPerStationS: String(settings.automaticAirPerStationS),
  txDelayMs: String(settings.txDelayMs),
  distanceUnit: settings.distanceUnit,
  voice: settings.voiceMHz === null ? '' : formatMHz(settings.voiceMHz),
  answerQueries: settings.answerQueries,
  symbol: settings.symbol,
  statusText: settings.statusText,
});

export function SettingsPlace() {
  const settings = useSettings();
  if (settings.isPending)
    return (
      <Page title="Settings">
        <Waiting what="settings" />
      </Page>
    );
  if (settings.isError)
    return (
      <Page title="Settings">
        <Trouble error={settings.error} retry={() => void settings.refetch()} />
      </Page>
    );
  return <SettingsForm settings={settings.data} />;
}

export function SettingsForm({ settings }: { settings: Settings }) {
  const { control, handleSubmit, setValue, reset, formState } = useForm<Form>({
    resolver: zodResolver(form),
    defaultValues: formOf(settings),
    mode: 'onTouched',
  });
  const save = useChange(api.changeSettings, ['settings', 'stations']);
  const submit = handleSubmit((values) => {
    const place = readPlace(values.place);
    save.mutate(
      {
        call: values.call,
        ssid: Number(values.ssid),
        region: values.region,
        frequencyMHz: values.frequency.trim() === '' ? null : Number(values.frequency),
        path: pathElements(values.path),
        position: place.ok ? place.position : settings.position,
        retry: { ...settings.retry, firstS: Number(values.firstS), tries: Number(values.tries) },
        storeLimit: Number(values.storeLimit),
        automaticAirS: Number(values.automaticAirS),
        automaticAirPerStationS: Number(values.automaticAirPerStationS),
        txDelayMs: Number(values.txDelayMs),
        distanceUnit: values.distanceUnit,
        voiceMHz: values.voice.trim() === '' ? null : Number(values.voice),
        answerQueries: values.answerQueries,
        symbol: values.symbol,
        statusText: values.statusText,
      },
      { onSuccess: (saved) => reset(formOf(saved)) },
    );
  });
  const place = readPlace(useWatch({ control, name: 'place' }));
  const firstS = useWatch({ control, name: 'firstS' });
  const tooSoon = firstS.trim() !== '' && Number(firstS) < SOONEST_OVER_DIGIPEATERS_S;
  const field = (
    name: Exclude<keyof Form, 'region' | 'distanceUnit' | 'answerQueries' | 'symbol'>,
    label: string,
    hint: string,
    mono = true,
  ) => (
    <Controller
      control={control}
      name={name}
      render={({ field: { value, onChange, onBlur }, fieldState }) => (
        <Field
          label={label}
          hint={hint}
          mono={mono}
          value={value}
          onChangeText={onChange}
          onBlur={onBlur}
          error={fieldState.error?.message}
        />
      )}
    />
  );
  return (
    <Page title="Settings">
      <Heading level={2}>Own station</Heading>
      {field('call', 'Call sign', 'As your licence has it, without SSID')}
      {field('ssid', 'SSID', '0 to 15; by habit 7 is a hand-held, 9 a car, 10 a gateway')}
      <TermHelp term="SSID" />
      {field(
        'place',
        'Position',
        place.ok && place.position
          ? `Locator ${locatorOf(place.position)}. Nothing is beaconed; others learn it only from answers that you allow.`
          : 'Decimal degrees or a locator; empty for none',
      )}
      <TakeFromDevice
        onPlace={(text) => setValue('place', text, { shouldValidate: true, shouldDirty: true, shouldTouch: true })}
      />
      <Rule />
      <TransmitQuestions settings={settings} />
      <Rule />
      <Heading level={2}>Radio</Heading>
      <Controller
        control={control}
        name="region"
        render={({ field: { value, onChange } }) => (
          <Choice<RegionId>
            label="Region"
            value={value}
            onChange={(region) => {
              onChange(region);
              const frequency = REGIONS.find((candidate) => candidate.id === region)?.packetMHz;
              if (frequency != null)
                setValue('frequency', formatMHz(frequency), { shouldValidate: true, shouldDirty: true });
            }}
            options={REGIONS.map((region) => ({
              id: region.id,
              title: region.name,
              hint:
                region.packetMHz === null
                  ? 'Type the frequency of the local plan.'
                  : `${formatMHz(region.packetMHz)} MHz by custom; the local plan comes first.`,
            }))}
          />
        )}
      />
      {field('frequency', 'Packet frequency, MHz', 'Shown on the button that sends; the radio itself is tuned by you')}
      {field('path', 'Usual path', 'For acknowledgements to stations further away')}
      {field(
        'txDelayMs',
        'Transmit delay, ms',
        'How long the transmitter needs before data; often 200 with a built-in modem, 600 with a hand-held',
      )}
      <Rule />
      <Heading level={2}>Chart and calling</Heading>
      <Controller
        control={control}
        name="distanceUnit"
        render={({ field: { value, onChange } }) => (
          <Choice<DistanceUnit> label="Distances in" value={value} onChange={onChange} options={UNITS} />
        )}
      />
      {field('voice', 'Voice frequency, MHz', 'Where you listen for voice; said in a voice alert. Empty for none')}
      <Rule />
      <Heading level={2}>Answers to other stations</Heading>
      <Controller
        control={control}
        name="answerQueries"
        render={({ field: { value, onChange } }) => (
          <CheckRow
            label="Answer questions of other stations by itself"
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
      {field('statusText', 'Status', 'Told to whoever asks, with the voice frequency; empty for nothing', false)}
      <Rule />
      <Heading level={2}>Tries</Heading>
      {field('firstS', 'First retry after, s', 'Doubles each time, up to ten minutes')}
      {tooSoon ? (
        <Notice title="Too soon for digipeaters">{`Digipeaters drop what they repeated in the last 30 s: a retry sooner than ${SOONEST_OVER_DIGIPEATERS_S} s is heard by nobody behind them.`}</Notice>
      ) : null}
      {field('tries', 'Tries in all', 'Then the text is marked as not acknowledged')}
      {field(
        'storeLimit',
        'Texts of strangers kept unfiled',
        'Beyond that, and beyond 20 of one stranger, they are shown as not taken. People you know always get in',
      )}
      <Rule />
      <Heading level={2}>Air time without a key pressed</Heading>
      {field(
        'automaticAirS',
        'At most on a channel in ten minutes, s',
        'Acknowledgements, rejections, answers, refusals of connections',
      )}
      {field('automaticAirPerStationS', 'Of it for one station asking, s', 'By the call that it gives')}
      {save.isError ? (
        <Notice kind="alarm" title="Not saved">
          {save.error.message}
        </Notice>
      ) : null}
      {save.isSuccess && !formState.isDirty ? <Notice title="Saved" /> : null}
      <View style={{ marginTop: 8 }}>
        <Button
          title="Save settings"
          onPress={() => void submit()}
          busy={save.isPending}
          disabled={!formState.isDirty}
        />
      </View>
    </Page>
  );
}

/** Fills in where this device is; for a station that stands where it is set up. */
function TakeFromDevice({ onPlace }: { onPlace: (degrees: string) => void }) {
  const [asking, setAsking] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = async () => {
    setAsking(true);
    setTrouble(null);
    const answer = await askDevice();
    setAsking(false);
    if (answer.state === 'known') onPlace(degreesOf(answer));
    else setTrouble(answer.reason);
  };
  return (
    <View style={{ alignItems: 'flex-start', gap: 4 }}>
      <Button
        title="Take it from this device"
        icon="crosshairs-gps"
        kind="plain"
        busy={asking}
        onPress={() => void take()}
      />
      {trouble ? <Notice title="No position from this device">{trouble}</Notice> : null}
    </View>
  );
}
