import type { Information } from './information';
import { symbolMeaning } from './symbol';

/** A station or a tracker calls for help. */
export interface Emergency {
  /** Its words say that it is an exercise. */
  readonly drill: boolean;
  /** By what it is known. */
  readonly by: string;
}

/** How a text begins that calls for help (common practice, no source); the name of a net does not. */
const WORDS = /^!?EMERGENCY\b(?!\s+NET\b)/;
const DRILL = /\b(?:DRILL|EXERCISE)\b/i;

/** Whether a packet calls for help: by the message of Mic-E (Protocol Reference 1.0.1, ch. 10), by its symbol, or in words. */
export function emergencyOf(information: Information): Emergency | null {
  const text = 'comment' in information ? information.comment : information.kind === 'status' ? information.text : '';
  const drill = DRILL.test(text);
  if (information.kind === 'Mic-E' && information.message === 'Emergency')
    return { drill, by: 'the message that its operator set' };
  if ('symbol' in information && information.symbol && symbolMeaning(information.symbol) === 'emergency')
    return { drill, by: 'its symbol' };
  return WORDS.test(text) ? { drill, by: 'its words' } : null;
}

/** Whether a packet says how its station is now, so that an emergency is over when it says so no more. */
export const tellsState = ({ kind }: Information): boolean =>
  kind === 'position' || kind === 'Mic-E' || kind === 'status';
