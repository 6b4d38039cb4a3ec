export { PositionPlace as default } from '../../src/places/tools/position/position-place';
export { ErrorBoundary } from '../../src/places/boundary';
