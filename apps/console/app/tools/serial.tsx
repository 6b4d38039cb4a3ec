export { SerialPlace as default } from '../../src/places/tools/serial/serial-place';
export { ErrorBoundary } from '../../src/places/boundary';
