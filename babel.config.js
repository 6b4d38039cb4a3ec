module.exports = (api) => {
  const testing = api.env('test');
  return {
    presets: ['babel-preset-expo'],
    // Jest runs modules as CommonJS, where `import()` has to become a promise of `require`.
    plugins: testing ? ['@babel/plugin-transform-dynamic-import'] : [],
  };
};
