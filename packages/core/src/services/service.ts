/**
 * Services that a gateway offers by message: an ordinary text to a keyword address is a command, with a little grammar of its own, and the
 * service answers in texts. Data, not code: an operator enters those of his district.
 */

/** What a field of a command takes. */
export const FIELD_KINDS = [
  'phone',
  'mail',
  'group',
  'call',
  'place',
  'reference',
  'frequency',
  'mode',
  'text',
] as const;
export type FieldKind = (typeof FIELD_KINDS)[number];

export interface ServiceField {
  /** Its name in the template and in the patterns. */
  readonly id: string;
  readonly title: string;
  readonly kind: FieldKind;
  readonly optional: boolean;
  /** What is entered most, one press each. */
  readonly offers: readonly string[];
}

export interface ServiceCommand {
  readonly id: string;
  /** What it does: `Say to a group`. */
  readonly title: string;
  readonly fields: readonly ServiceField[];
  /** The text that is sent: fields in braces; what stands in brackets is left out while a field in it is empty. */
  readonly template: string;
  /** Whether asking for an acknowledgement helps: one that never acknowledges would be asked again and again for nothing. */
  readonly asksAcknowledgement: boolean;
  /** The service uses where we were last: our position goes out before it. */
  readonly positionFirst: boolean;
  /** An answer may take so long. */
  readonly answerWithinS: number;
  /** The command that ends what this one begins; null where nothing has to be left. */
  readonly leftBy: string | null;
  readonly cautions: readonly string[];
}

/**
 * What an answer proves: that the service took the text, to hand it on; that it refused it; that the far person answers; or that the service
 * itself tells what was asked. What others say in a group proves nothing.
 */
export const PROVES = ['taken', 'refused', 'answer', 'told', 'nothing'] as const;
export type Proves = (typeof PROVES)[number];

export interface ServiceAnswer {
  /** Of the syntax that RE2 knows. A group named like a field tells which question is answered; `text` and `reason` are shown alone. */
  readonly pattern: string;
  readonly proves: Proves;
  /** The commands that are answered so; all of them where none is named. */
  readonly of: readonly string[];
}

export interface Service {
  /** Whom the text is addressed to. */
  readonly address: string;
  readonly name: string;
  readonly purpose: string;
  /** How it is reached: `behind QT1GW-10`. */
  readonly reached: string;
  readonly commands: readonly ServiceCommand[];
  readonly answers: readonly ServiceAnswer[];
}

/** A command as it was given: what an answer has to fit. */
export interface ServiceQuestion {
  readonly address: string;
  readonly command: string;
  readonly values: Readonly<Record<string, string>>;
  /** Written as a text, without a command of the directory: its words alone tell what it asks. */
  readonly byHand?: true;
  /** Nobody answers it: that the service took it is all that can be proven. Not said of what was put before that was kept. */
  readonly endsWhenTaken?: boolean;
}
