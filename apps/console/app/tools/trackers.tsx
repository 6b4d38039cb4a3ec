export { TrackersPlace as default } from '../../src/places/tools/trackers/trackers-place';
export { ErrorBoundary } from '../../src/places/boundary';
