/** What Debian's Chromium needs to run without a screen, as root, and to leave the network alone. */
module.exports = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];
