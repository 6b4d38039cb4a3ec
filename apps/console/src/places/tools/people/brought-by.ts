import type { BroughtBy, Person } from '@tombolo/contract';
import { fail, ok, type Parsed } from '@tombolo/core';

type Others = readonly Pick<Person, 'id' | 'name'>[];

const listed = (all: readonly BroughtBy[], others: Others, unit: string): string =>
  all
    .flatMap(({ person, aboutMin }) => {
      const name = others.find(({ id }) => id === person)?.name;
      return name === undefined ? [] : [`${name} ${aboutMin}${unit}`];
    })
    .join(', ');

/** `Oskar Pellmund 20, Ferry Office 45`: who brings something, and in about how many minutes; somebody who is not on the list is left out. */
export const writeBroughtBy = (all: readonly BroughtBy[], others: Others): string => listed(all, others, '');

/** For reading: `Oskar Pellmund 20 min`. */
export const broughtByWords = (all: readonly BroughtBy[], others: Others): string => listed(all, others, ' min');

/** The same, read. A name may hold commas and figures itself, so that it is looked for by the list and not by where it ends. */
export function readBroughtBy(text: string, others: Others): Parsed<BroughtBy[]> {
  const longestFirst = [...others].sort((a, b) => b.name.length - a.name.length);
  const read: BroughtBy[] = [];
  let rest = text.trim();
  while (rest !== '') {
    const who = longestFirst.find(({ name }) => rest.toLowerCase().startsWith(name.toLowerCase()));
    if (!who) return fail(0, `nobody of the list is called “${rest.slice(0, 60)}”`);
    const after = rest.slice(who.name.length);
    const time = /^\s+(\d{1,5})(?:\s*min)?(?:\s*[,;\n]\s*|$)/.exec(after);
    if (!time) return fail(0, `behind ${who.name}: about how many minutes it takes, such as “${who.name} 20”`);
    read.push({ person: who.id, aboutMin: Number(time[1]) });
    rest = after.slice(time[0].length).trim();
  }
  return ok(read);
}
