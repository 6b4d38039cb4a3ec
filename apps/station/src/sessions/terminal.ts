import { connectTo } from './connect';
import type { Dialogue } from './dialogue';
import type { SessionContext } from './session';

/** A plain terminal: what the other side says is shown, lines are sent as typed. */
export async function runTerminal(
  context: SessionContext,
  call: string,
  ready: (dialogue: Dialogue) => void,
): Promise<void> {
  const dialogue = await connectTo(context, call);
  const { stream } = dialogue;
  ready(dialogue);
  context.stage(`connected to ${call}`);
  await new Promise<void>((resolve, reject) => {
    stream.once('end', () => resolve());
    stream.once('error', reject);
  });
  await dialogue.close();
}
