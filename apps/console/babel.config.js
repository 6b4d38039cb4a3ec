const directImports = require('./direct-imports');

module.exports = (api) => {
  api.cache.using(() => directImports.digest);
  return { presets: ['babel-preset-expo'], plugins: [directImports] };
};
