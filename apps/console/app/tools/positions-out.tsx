export { PositionsOutPlace as default } from '../../src/places/tools/positions-out/positions-out-place';
export { ErrorBoundary } from '../../src/places/boundary';
