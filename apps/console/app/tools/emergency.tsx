export { EmergencyPlace as default } from '../../src/places/tools/emergency/emergency-place';
export { ErrorBoundary } from '../../src/places/boundary';
