module.exports = (config) =>
  config.set({
    frameworks: ['jasmine'],
    plugins: [require('karma-jasmine'), require('karma-chrome-launcher')],
    reporters: ['progress'],
    browsers: ['Chromium'],
    customLaunchers: require('../tools/lib/karma-browser.cjs'),
    client: { jasmine: { random: false } },
    browserNoActivityTimeout: 120000,
  });
