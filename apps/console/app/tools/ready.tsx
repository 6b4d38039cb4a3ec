export { ReadyPlace as default } from '../../src/places/tools/ready/ready-place';
export { ErrorBoundary } from '../../src/places/boundary';
