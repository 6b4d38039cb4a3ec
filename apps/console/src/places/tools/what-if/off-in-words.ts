import { offOf, type Reliance } from '@tombolo/contract';

/** What people call something that may fail. */
const KINDS: Readonly<Record<Reliance['what'], (label: string) => string>> = {
  bearer: (label) => `${label}, a bearer of yours`,
  station: (label) => label,
  node: (label) => `Node ${label}`,
  service: (label) => `The service ${label}`,
  internet: (label) => label,
};
export const relianceInWords = ({ what, label }: Pick<Reliance, 'what' | 'label'>): string => KINDS[what](label);

/** What a plan thinks off, for people; of what nothing relies on as things are there is only its name. */
export const offInWords = (text: string, relies: readonly Reliance[]): string =>
  `Off: ${offOf(text)
    .map((id) => {
      const thing = relies.find((one) => one.id === id);
      return thing ? relianceInWords(thing) : id;
    })
    .join('; ')}.`;
