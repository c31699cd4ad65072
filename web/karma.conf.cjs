module.exports = (config) =>
  config.set({
    frameworks: ['jasmine'],
    plugins: [require('karma-jasmine'), require('karma-chrome-launcher')],
    reporters: ['dots'],
    browsers: ['Chromium'],
    customLaunchers: require('../tools/lib/karma-browser.cjs'),
    client: { jasmine: { random: false, timeoutInterval: 20_000 } },
    browserNoActivityTimeout: 120000,
    // As for the core's specs: one that computes for long answers no ping.
    pingTimeout: 60000,
    browserDisconnectTimeout: 30000,
  });
