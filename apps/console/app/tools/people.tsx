export { PeoplePlace as default } from '../../src/places/tools/people/people-place';
export { ErrorBoundary } from '../../src/places/boundary';
