export { ToolsPlace as default } from '../../src/places/tools/tools-place';
