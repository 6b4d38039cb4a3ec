/** The element library asks for many icon fonts; the console uses one, and none in tests. */
export default () => null;
