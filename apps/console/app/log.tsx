import { LogPlace } from '../src/places/log/log-place';
import { WithPacket } from '../src/places/with-packet';

export { ErrorBoundary } from '../src/places/boundary';

export default function Log() {
  return <WithPacket>{(openPacket) => <LogPlace openPacket={openPacket} />}</WithPacket>;
}
