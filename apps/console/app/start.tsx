export { StartPlace as default } from '../src/places/start/start-place';
export { ErrorBoundary } from '../src/places/boundary';
