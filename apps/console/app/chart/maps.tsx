export { MapsPlace as default } from '../../src/places/chart/maps-place';
export { ErrorBoundary } from '../../src/places/boundary';
