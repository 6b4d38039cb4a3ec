export { CallingPlace as default } from '../../src/places/chart/calling-place';
export { ErrorBoundary } from '../../src/places/boundary';
