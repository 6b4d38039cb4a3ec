export { CallingPlace as default } from '../../src/places/chart/calling-place';
