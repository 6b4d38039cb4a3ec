import {
  bearingBetween,
  positionOfLocator,
  weatherOf,
  decodeInformation,
  type Packet,
  type Weather,
} from '@tombolo/core';
import type { World } from '../sim/world';
import type { WriteTo } from './group-server';

const MINUTE_MS = 60_000;
const KM_PER_MILE = 1.609344;
/** What is measured farther away says little of a place. */
const WEATHER_WITHIN_KM = 60;
const REFERENCE = /^[A-Z0-9]{1,6}-[A-Z0-9]{1,6}$/;
const MHZ = /^\d{1,6}(?:\.\d{1,6})?$/;
const MODE = /^[A-Z0-9]{1,8}$/;

interface Heard {
  readonly by: string;
  readonly atMs: number;
  readonly position: { readonly latitude: number; readonly longitude: number; readonly atMs: number } | null;
  readonly weather: { readonly weather: Weather; readonly atMs: number } | null;
}

const degrees = (value: number, whole: number, signs: readonly [string, string]): string => {
  const minutes = Math.abs(value) * 60;
  return `${String(Math.floor(minutes / 60)).padStart(whole, '0')} ${(minutes % 60).toFixed(2).padStart(5, '0')}${signs[value < 0 ? 1 : 0]}`;
};
const kmh = (mph: number | null): string => (mph === null ? '?' : String(Math.round(mph * KM_PER_MILE)));

/** The desk of the district: it listens by its gateway's radio, and tells what it heard. */
export function createDistrictDesk(world: World, gateway: string, write: WriteTo) {
  const heard = new Map<string, Heard>();
  const ago = (atMs: number) => `${Math.max(0, Math.round((world.now() - atMs) / MINUTE_MS))} min ago`;

  const spot = (from: string, text: string) => {
    const [command = '', ...remark] = text.split(': ');
    const fields = new Map<string, string>();
    const words = command.split(' ');
    words.forEach((word, n) => {
      if (['AT', 'ON', 'BY'].includes(word)) fields.set(word, words[n + 1] ?? '');
    });
    const [at = '', on = '', by = ''] = ['AT', 'ON', 'BY'].map((label) => fields.get(label) ?? '');
    if (!REFERENCE.test(at)) return write(from, 'Not spotted: AT and a reference such as HS-014');
    if (!MHZ.test(on)) return write(from, 'Not spotted: ON and a frequency in MHz');
    if (!MODE.test(by)) return write(from, 'Not spotted: BY and a mode');
    write(from, `Spotted ${at} on ${on} by ${by}${remark.length > 0 ? ' with remark' : ''}`);
  };
  const whoHeard = (from: string, asked: string) => {
    const call = asked === 'ME' ? from : asked;
    const of = heard.get(call);
    write(from, of ? `${call} was heard by ${of.by}, ${ago(of.atMs)}` : `Not known: ${call} was not heard`);
  };
  const where = (from: string, call: string) => {
    const at = heard.get(call)?.position;
    write(
      from,
      at
        ? `${call} is at ${degrees(at.latitude, 2, ['N', 'S'])} ${degrees(at.longitude, 3, ['E', 'W'])}, ${ago(at.atMs)}`
        : `Not known: where ${call} is`,
    );
  };
  const sky = (from: string, place: string) => {
    const at = positionOfLocator(place);
    const told = [...heard.values()].filter(
      ({ weather, position }) =>
        weather && (!at.ok || (position && bearingBetween(at.value, position).distanceKm <= WEATHER_WITHIN_KM)),
    );
    const latest = told.sort((a, b) => b.weather!.atMs - a.weather!.atMs)[0]?.weather;
    if (!latest) return write(from, `Not known: no weather at ${place}`);
    const { windDirectionDeg, windMph, gustMph } = latest.weather;
    write(
      from,
      `Sky at ${place}: wind ${windDirectionDeg ?? '?'} at ${kmh(windMph)}, gusts ${kmh(gustMph)} km/h, ${ago(latest.atMs)}`.slice(
        0,
        67,
      ),
    );
  };
  const asked: Record<string, (from: string, rest: string) => void> = {
    SPOT: spot,
    HEARD: whoHeard,
    WHERE: where,
    SKY: sky,
  };

  return {
    hear(packet: Packet) {
      const information = decodeInformation(packet.info, packet.destination);
      const before = heard.get(packet.source);
      const atMs = world.now();
      const told = information.ok ? information.value : null;
      const weather = told && weatherOf(told);
      heard.set(packet.source, {
        by: packet.path.findLast(({ used }) => used)?.call ?? gateway,
        atMs,
        position:
          told && (told.kind === 'position' || told.kind === 'Mic-E')
            ? { latitude: told.latitude, longitude: told.longitude, atMs }
            : (before?.position ?? null),
        weather: weather ? { weather, atMs } : (before?.weather ?? null),
      });
    },
    serve(from: string, text: string) {
      const space = text.indexOf(' ');
      const verb = space < 0 ? text : text.slice(0, space);
      const rest = space < 0 ? '' : text.slice(space + 1).trim();
      const act = Object.hasOwn(asked, verb) && rest !== '' ? asked[verb] : undefined;
      if (act) act(from, rest);
      else write(from, 'Not known: SPOT, HEARD, SKY or WHERE, and what you ask for');
    },
  };
}
