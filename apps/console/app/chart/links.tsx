export { LinksHeardPlace as default } from '../../src/places/chart/links-heard-place';
