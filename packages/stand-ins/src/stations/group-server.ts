import { parseStationCall } from '@tombolo/core';
import type { World } from '../sim/world';

/** Sends a text of a service to a station. */
export type WriteTo = (to: string, text: string) => void;

const GROUP = /^[A-Z0-9]{1,9}$/;
const MOST_SHOWN = 6;
/** Who is always there, and what is said some time after somebody came. */
const SOUNDNET = { group: 'SOUNDNET', there: ['QT1NC', 'QT4LB-8', 'QT6CL'], afterMs: 60_000 };
const ROLL_CALL = 'QT1NC: Roll call at the full hour, one line each';

/** The group server: `IN`, `SAY`, `OUT` and `WHO` with a group; what one says, all who joined hear. */
export function createGroupServer(world: World, write: WriteTo): (from: string, text: string) => void {
  const groups = new Map<string, Set<string>>([[SOUNDNET.group, new Set()]]);
  const othersIn = (group: string) => (group === SOUNDNET.group ? SOUNDNET.there : []);
  const everybodyIn = (group: string) => [...othersIn(group), ...(groups.get(group) ?? [])];
  const say = (group: string, from: string, text: string) => {
    for (const member of groups.get(group) ?? [])
      if (member !== from) write(member, `${group} ${from}: ${text}`.slice(0, 67));
  };
  const asked: Record<string, (from: string, group: string, text: string) => void> = {
    IN(from, group, text) {
      const members = groups.get(group) ?? new Set();
      members.add(from);
      groups.set(group, members);
      write(from, `You are in ${group} with ${everybodyIn(group).length - 1} others`);
      if (text) say(group, from, text);
      if (group === SOUNDNET.group)
        world.after(SOUNDNET.afterMs, () => {
          if (members.has(from)) write(from, `${group} ${ROLL_CALL}`);
        });
    },
    SAY(from, group, text) {
      if (!groups.get(group)?.has(from)) return write(from, `Not done in ${group}: you are not in it`);
      if (!text) return write(from, `Not done in ${group}: no words`);
      write(from, `Said in ${group} to ${everybodyIn(group).length - 1}`);
      say(group, from, text);
    },
    OUT(from, group) {
      write(from, groups.get(group)?.delete(from) ? `You left ${group}` : `Not done in ${group}: you are not in it`);
    },
    WHO(from, group) {
      const there = everybodyIn(group);
      write(from, `In ${group}: ${there.slice(0, MOST_SHOWN).join(' ') || 'nobody'}`);
    },
  };
  return (from, text) => {
    const [verb = '', group = '', ...words] = text.split(' ');
    const act = Object.hasOwn(asked, verb) ? asked[verb] : undefined;
    if (!act || !GROUP.test(group) || !parseStationCall(from).ok)
      return write(from, 'Not done: IN, SAY, OUT or WHO, then the group');
    act(from, group, words.join(' ').trim());
  };
}
