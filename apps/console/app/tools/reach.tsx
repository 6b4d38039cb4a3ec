export { ReachPlace as default } from '../../src/places/tools/reach/reach-place';
export { ErrorBoundary } from '../../src/places/boundary';
