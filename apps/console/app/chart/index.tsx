export { ChartPlace as default } from '../../src/places/chart/chart-place';
export { ErrorBoundary } from '../../src/places/boundary';
