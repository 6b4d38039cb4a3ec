import { addressed, type Prepare } from './prepared';
import { refuseEncrypted } from './encrypted';

/** A message to leave at a board in the next session. */
export const byMessages: Prepare<'messages'> = (_, written) => {
  const { content, carriage, own } = written;
  refuseEncrypted(`${content.subject}\n${content.body}`);
  return {
    item: {
      kind: content.bulletin ? 'bulletin' : 'text',
      sender: own,
      addressee: addressed(written),
      subject: content.subject,
      body: content.body,
    },
    leg: {
      path: carriage.path,
      info: Buffer.from(content.body, 'utf8'),
      once: true,
      detail: { bulletin: content.bulletin },
      note: `to be left at ${carriage.call} in the next session`,
    },
  };
};
