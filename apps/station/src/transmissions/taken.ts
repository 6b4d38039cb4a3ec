/** What became of a frame that was handed over. */
export interface Taken {
  readonly verdict:
    /** The equipment says that it sent it. */
    | 'confirmed'
    /** It was given to the equipment, which tells nothing. */
    | 'given'
    /** It was given to the equipment, which should have told, and did not: it may or may not go out. */
    | 'unknown'
    /** It certainly was not given to it. */
    | 'not taken';
  readonly words: string;
}

/** A frame that the equipment still has, by the air time of what it was given. */
export interface AtEquipment {
  readonly line: string;
  readonly untilMs: number;
}
