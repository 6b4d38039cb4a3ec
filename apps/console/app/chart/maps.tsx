export { MapsPlace as default } from '../../src/places/chart/maps-place';
