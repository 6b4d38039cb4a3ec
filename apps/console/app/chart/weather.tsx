import { ReadingsBoard } from '../../src/places/chart/boards/readings-board';

export { ErrorBoundary } from '../../src/places/boundary';

export default function Board() {
  return <ReadingsBoard kind="weather" />;
}
