export { PeoplePlace as default } from '../../src/places/tools/people/people-place';
