import { formatMHz, readDecimal, readWhole } from '@tombolo/core';
import { ownCall, settings as settingsSchema, type Settings, type SettingsChange } from '@tombolo/contract';
import { z } from 'zod';
import { degreesOf, readPlace } from './place';

const wholeIn = (schema: z.ZodType<number>, what: string) =>
  z.string().refine((text) => schema.safeParse(readWhole(text)).success, what);

/** The form holds texts; the contract's schemas judge what they mean. */
export const form = z.object({
  call: ownCall,
  ssid: wholeIn(settingsSchema.shape.ssid, 'a number from 0 to 15'),
  region: settingsSchema.shape.region,
  place: z.string().superRefine((text, context) => {
    const place = readPlace(text);
    if (!place.ok) context.addIssue({ code: 'custom', message: place.reason });
  }),
  firstS: wholeIn(settingsSchema.shape.retry.shape.firstS, 'seconds, from 1 to 3600'),
  tries: wholeIn(settingsSchema.shape.retry.shape.tries, 'a number from 1 to 20'),
  mostTries: wholeIn(settingsSchema.shape.mostTries, 'a number from 2 to 20'),
  storeLimit: wholeIn(settingsSchema.shape.storeLimit, 'a number from 1 to 100000'),
  automaticAirS: wholeIn(settingsSchema.shape.automaticAirS, 'seconds, from 1 to 300'),
  automaticAirPerStationS: wholeIn(settingsSchema.shape.automaticAirPerStationS, 'seconds, from 1 to 300'),
  voice: z
    .string()
    .refine(
      (text) => text.trim() === '' || settingsSchema.shape.voiceMHz.safeParse(readDecimal(text)).success,
      'a frequency in MHz, such as 146.520',
    ),
  answerQueries: z.boolean(),
  symbol: settingsSchema.shape.symbol,
  statusText: settingsSchema.shape.statusText,
});
export type Form = z.input<typeof form>;
/** Fields that hold a line of text. */
export type TextField = Exclude<keyof Form, 'region' | 'answerQueries' | 'symbol'>;

export const formOf = (settings: Settings): Form => ({
  call: settings.call,
  ssid: String(settings.ssid),
  region: settings.region,
  place: settings.position ? degreesOf(settings.position) : '',
  firstS: String(settings.retry.firstS),
  tries: String(settings.retry.tries),
  mostTries: String(settings.mostTries),
  storeLimit: String(settings.storeLimit),
  automaticAirS: String(settings.automaticAirS),
  automaticAirPerStationS: String(settings.automaticAirPerStationS),
  voice: settings.voiceMHz === null ? '' : formatMHz(settings.voiceMHz),
  answerQueries: settings.answerQueries,
  symbol: settings.symbol,
  statusText: settings.statusText,
});

/** What a form that was found good asks for. */
export function changeOf(values: Form, settings: Settings): SettingsChange {
  const place = readPlace(values.place);
  return {
    call: values.call,
    ssid: readWhole(values.ssid),
    region: values.region,
    position: place.ok ? place.position : settings.position,
    retry: { ...settings.retry, firstS: readWhole(values.firstS), tries: readWhole(values.tries) },
    mostTries: readWhole(values.mostTries),
    storeLimit: readWhole(values.storeLimit),
    automaticAirS: readWhole(values.automaticAirS),
    automaticAirPerStationS: readWhole(values.automaticAirPerStationS),
    voiceMHz: values.voice.trim() === '' ? null : readDecimal(values.voice),
    answerQueries: values.answerQueries,
    symbol: values.symbol,
    statusText: values.statusText,
  };
}

/** What the fields are called. */
export const LABELS: Readonly<Record<TextField, string>> = {
  call: 'Call sign',
  ssid: 'SSID',
  place: 'Position',
  voice: 'Voice frequency, MHz',
  statusText: 'Status',
  firstS: 'First retry after, s',
  tries: 'Tries in all',
  mostTries: 'Tries at most, where they are weighed',
  storeLimit: 'Texts of strangers kept unfiled',
  automaticAirS: 'At most on a channel in ten minutes, s',
  automaticAirPerStationS: 'Of it for one station asking, s',
};
