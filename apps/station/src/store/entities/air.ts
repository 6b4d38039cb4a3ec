import { bigint, counted, instant, integer, key, table, text } from '../table';

/** Air time that was used of a channel's budget. */
export const AirTimeEntity = table('air_time', {
  id: counted(bigint()),
  channel: text(),
  at: instant(),
  ms: integer(),
  what: text(),
  askedBy: text(),
});

/** Air time of our node in a sub-band with a duty-cycle limit. */
export const DutyAirEntity = table('duty_air', {
  bearerId: key(text()),
  subBand: text(),
  packet: key(text()),
  at: instant(),
  ms: integer(),
  cause: key(text()),
});
