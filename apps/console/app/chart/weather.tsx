import { ReadingsBoard } from '../../src/places/chart/boards/readings-board';

export default function Board() {
  return <ReadingsBoard kind="weather" />;
}
