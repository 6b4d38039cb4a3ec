import type { Abbreviation } from '@tombolo/core';
import { z } from 'zod';

const line = (most: number) =>
  z
    .string()
    .trim()
    .min(1, 'both sides of the equals sign')
    .max(most, `at most ${most} characters`)
    .regex(/^\P{Cc}*$/u, 'no control characters');

/** What the operator writes for what where a text is too long. */
export const abbreviations = z
  .array(z.object({ long: line(40), short: line(20) }))
  .max(200, 'at most two hundred')
  .superRefine((list, context) => {
    const seen = new Set<string>();
    for (const [n, { long }] of list.entries()) {
      const key = long.toLowerCase();
      if (seen.has(key)) context.addIssue({ code: 'custom', path: [n], message: `“${long}” stands there twice` });
      seen.add(key);
    }
  });

/** What a station begins with. (Common practice, no source.) */
export const USUAL_ABBREVIATIONS: readonly Abbreviation[] = [
  ['and', '&'],
  ['at', '@'],
  ['with', 'w/'],
  ['without', 'w/o'],
  ['please', 'pls'],
  ['thank you', 'tnx'],
  ['thanks', 'tnx'],
  ['message', 'msg'],
  ['received', 'rcvd'],
  ['required', 'reqd'],
  ['people', 'ppl'],
  ['station', 'stn'],
  ['hospital', 'hosp'],
  ['medicine', 'meds'],
  ['emergency', 'emerg'],
  ['information', 'info'],
  ['position', 'pos'],
  ['weather', 'wx'],
  ['degrees', 'deg'],
  ['minutes', 'min'],
  ['hours', 'h'],
  ['kilometres', 'km'],
  ['litres', 'l'],
  ['north', 'N'],
  ['north east', 'NE'],
  ['north west', 'NW'],
  ['south', 'S'],
  ['south east', 'SE'],
  ['south west', 'SW'],
  ['tomorrow', 'tmrw'],
].map(([long, short]) => ({ long: long!, short: short! }));
