/**
 * Debian's Chromium without windows, which starts and draws in three quarters of the time that the one with windows takes
 * where there is no screen.
 */
export const CHROMIUM = 'chromium-headless-shell';

/** How every browser of ours is launched: as root it needs --no-sandbox, and nothing of it may look for the network. */
export const launchOptions = {
  executablePath: `/usr/bin/${CHROMIUM}`,
  args: [
    '--no-sandbox',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
};
