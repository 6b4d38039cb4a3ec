export { ObjectsPlace as default } from '../../src/places/tools/objects/objects-place';
export { ErrorBoundary } from '../../src/places/boundary';
