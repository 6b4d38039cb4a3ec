const path = require('node:path');
const { getDefaultConfig } = require('expo/metro-config');
const directImports = require('./direct-imports');

const root = path.resolve(__dirname, '../..');
const config = getDefaultConfig(__dirname);

// The element library asks for seventeen icon fonts; ours are pictures, so all are emptied.
const ANY_ICON_FAMILY = /^(?:@react-native-vector-icons\/|react-native-vector-icons\/|@expo\/vector-icons)/;
const empty = { type: 'empty' };
const upstream = config.resolver.resolveRequest;

config.cacheVersion = `${config.cacheVersion ?? ''} ${directImports.digest}`;
config.watchFolders = [root];
config.resolver.resolveRequest = (context, name, platform) => {
  const next = upstream ?? context.resolveRequest;
  if (ANY_ICON_FAMILY.test(name) && context.originModulePath.includes('@rneui')) return empty;
  // Half a megabyte of languages that the interface does not speak.
  if (/\/locales\/index(\.js|\.cjs)?$/.test(name) && context.originModulePath.includes(`${path.sep}zod${path.sep}`))
    return { type: 'sourceFile', filePath: path.resolve(__dirname, 'src/ui/zod-locales.js') };
  return next(context, name, platform);
};

module.exports = config;
