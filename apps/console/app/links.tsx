import { LinksPlace } from '../src/places/links/links-place';
import { WithPacket } from '../src/places/with-packet';

export default function Links() {
  return <WithPacket>{(openPacket) => <LinksPlace openPacket={openPacket} />}</WithPacket>;
}
