import { MAX_MESSAGE_TEXT } from '../aprs/message';

/**
 * Services behind a gateway: an ordinary message to a keyword address is a command. Data, not code, so that an operator can change it.
 */
export interface GatewayService {
  readonly address: string;
  readonly name: string;
  readonly reaches: 'phone' | 'mail';
  /** Fields: to, text. */
  readonly template: string;
  /** How the service says that it took the command; group: to. */
  readonly accepted: string;
  readonly refused: string;
  /** How an answer from the far side begins; groups: from, text. */
  readonly answer: string;
}

export const GATEWAY_SERVICES: readonly GatewayService[] = [
  {
    address: 'TELTXT',
    name: 'Phone text',
    reaches: 'phone',
    template: '{to}: {text}',
    accepted: '^Text to (?<to>\\d+) taken',
    refused: '^Not sent: (?<reason>.*)$',
    answer: '^(?<from>\\d{3,20}): (?<text>.*)$',
  },
  {
    address: 'POSTBX',
    name: 'One-line mail',
    reaches: 'mail',
    template: '{to}: {text}',
    accepted: '^Mail to (?<to>\\S+) taken',
    refused: '^Not sent: (?<reason>.*)$',
    // One “@” and no space: what could be split in several places would be tried at each.
    answer: '^(?<from>[^\\s@]{1,64}@[^\\s@:]{1,255}): (?<text>.*)$',
  },
];

/** What a service's message says. */
export type ServiceWord =
  | { readonly kind: 'accepted'; readonly to: string }
  | { readonly kind: 'refused'; readonly reason: string }
  | { readonly kind: 'answer'; readonly from: string; readonly text: string };

export const serviceAt = (address: string): GatewayService | undefined =>
  GATEWAY_SERVICES.find((service) => service.address === address.trim().toUpperCase());

/** Reads a message that came from a service address; null when it is none of the three. */
export function readServiceWord(service: GatewayService, text: string): ServiceWord | null {
  const answer = new RegExp(service.answer, 'u').exec(text)?.groups;
  if (answer) return { kind: 'answer', from: answer.from ?? '', text: answer.text ?? '' };
  const accepted = new RegExp(service.accepted, 'u').exec(text)?.groups;
  if (accepted) return { kind: 'accepted', to: accepted.to ?? '' };
  const refused = new RegExp(service.refused, 'u').exec(text)?.groups;
  return refused ? { kind: 'refused', reason: refused.reason ?? '' } : null;
}

/** A phone number as the services take it: digits alone. */
export const phoneDigits = (number: string): string => number.replace(/\D+/g, '');

export const fillService = (service: GatewayService, to: string, text: string): string =>
  service.template.replace('{to}', to).replace('{text}', text.replace(/[\r\n]+/g, ' '));

/** Octets that remain for the text. */
export const roomInService = (service: GatewayService, to: string): number =>
  MAX_MESSAGE_TEXT - fillService(service, to, '').length;
