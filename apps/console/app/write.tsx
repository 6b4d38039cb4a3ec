export { WritePlace as default } from '../src/places/write/write-place';
