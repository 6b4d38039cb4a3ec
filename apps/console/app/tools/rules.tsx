export { RulesPlace as default } from '../../src/places/tools/rules-place';
