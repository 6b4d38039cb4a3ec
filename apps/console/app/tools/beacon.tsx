export { BeaconPlace as default } from '../../src/places/tools/beacon/beacon-place';
export { ErrorBoundary } from '../../src/places/boundary';
