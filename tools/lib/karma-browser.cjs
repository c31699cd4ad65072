/** Debian's Chromium for Karma; CHROME_BIN says where it is. */
module.exports = { Chromium: { base: 'ChromeHeadless', flags: require('./browser-flags.cjs') } };
