import { hasShown, personKnownAs, type BearerView, type Person, type PlannedWay } from '@tombolo/contract';
import { parseStationCall, PATH_SCHOOLS } from '@tombolo/core';
import { consoleKind } from '../bearers/registry';
import type { DraftChange, DraftView } from '../drafts/draft';

/** The part of Write whose text stands in a field of a service. */
const BY_SERVICE = 'service';

/** The part of Write that writes for a way; null where there is none. */
export function partOf({ send }: Pick<PlannedWay, 'send'>, bearers: readonly BearerView[]): string | null {
  const bearer = bearers.find(({ id }) => id === send.way.bearerId);
  const composer = bearer && consoleKind(bearer.config.kind).composer;
  return (send.command ? composer?.further?.[0]?.id : composer?.id) ?? null;
}

/** The text of a command is the one that is written, not the one that a way was reckoned for. */
const withoutText = ({ text: _, ...values }: Readonly<Record<string, string>>): Record<string, string> => values;

/** What a draft becomes when a way is taken: the part, the address there, and how it goes. */
export function takingWay(
  { send }: Pick<PlannedWay, 'send'>,
  part: string,
  person: string | null,
  whom: string,
  text: string,
): DraftChange {
  const { way, to, command, inParts, broughtBy } = send;
  const school = way.by === 'packets' ? PATH_SCHOOLS.find(({ path }) => path.join() === way.path.join()) : undefined;
  return {
    whom,
    way: part,
    body: text,
    // A node is called by whom it belongs to, where that is known.
    addressee: way.by === 'texts' && person !== null ? (broughtBy ?? person) : to,
    handOver: broughtBy !== null && person !== null ? { by: broughtBy, to: person } : null,
    inParts,
    everybody: false,
    ...(school && { school: school.id, askAcknowledgement: true }),
    ...(way.by === 'texts' && { channel: way.channel }),
    ...(way.by === 'messages' && { bulletin: false }),
    ...(command && { command: command.command, values: withoutText(command.values) }),
  };
}

/** Whether a way is set whole where nobody chose it: a path that is only believed to work is left to the composer. */
export const isSetWhole = (planned: PlannedWay): boolean => planned.send.way.by !== 'packets' || hasShown(planned);

/** What a draft becomes when somebody is named: the surest way to them is taken, over a path that has shown that it works, or the one that is taken where nobody chooses. */
export function proposingWay(
  planned: PlannedWay,
  part: string,
  person: string | null,
  whom: string,
  text: string,
): DraftChange {
  const change = takingWay(planned, part, person, whom, text);
  return isSetWhole(planned) ? change : { ...change, school: 'advised' };
}

/** Whether a draft goes that way as it stands. */
export function isTaken(draft: DraftView, way: Pick<PlannedWay, 'send'>, part: string, person: string | null): boolean {
  const wanted = takingWay(way, part, person, draft.whom, draft.body);
  return (
    draft.way === wanted.way &&
    draft.addressee.trim().toUpperCase() === wanted.addressee?.trim().toUpperCase() &&
    (wanted.school === undefined || draft.school === wanted.school) &&
    (wanted.channel === undefined || draft.channel === '' || draft.channel === wanted.channel) &&
    (wanted.command === undefined || draft.command === wanted.command) &&
    draft.handOver?.by === wanted.handOver?.by
  );
}

/** Whom the ways are asked for: the one that was named, unless something else was addressed by hand since. */
export function whomFor(
  { whom, addressee, way, handOver }: Pick<DraftView, 'whom' | 'addressee' | 'way' | 'handOver'>,
  people: readonly Person[],
): string {
  const [named, addressed] = [whom.trim(), addressee.trim()];
  // A service stands between: its own address is nobody's, and where it is no call no way leads to it. So does who brings it.
  if (way === BY_SERVICE && named === '' && !parseStationCall(addressed).ok) return '';
  if (named === '' || addressed === '' || way === BY_SERVICE || handOver) return named || addressed;
  const person = personKnownAs(named, people);
  const same = person
    ? personKnownAs(addressed, people)?.id === person.id
    : addressed.toUpperCase() === named.toUpperCase();
  return same ? named : addressed;
}
