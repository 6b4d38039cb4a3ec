export { ServicesPlace as default } from '../../src/places/tools/services/services-place';
export { ErrorBoundary } from '../../src/places/boundary';
