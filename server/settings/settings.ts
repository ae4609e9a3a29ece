import { existsSync, readFileSync } from 'node:fs';
import { isIP } from 'node:net';
import { join } from 'node:path';
import { firstFault } from '@keen-ridge/core/scene';
import { reasonOf } from '@keen-ridge/core/units';
import { z } from 'zod';

/** Files that a server reads its certificate and its key from. */
const tlsSchema = z.strictObject({ cert: z.string().min(1), key: z.string().min(1) });

export const settingsSchema = z.strictObject({
  /** The address that is listened on: loopback reaches this machine alone. */
  host: z.string().min(1).default('127.0.0.1'),
  port: z.int().min(0).max(65_535).optional(),
  /** Names by which browsers reach the server, without port. */
  names: z.array(z.string().min(1).max(253)).max(20).default([]),
  /** Whether people sign in; always, where others than this machine can reach the server. */
  signIn: z.boolean().default(false),
  /** Whether a proxy on this machine stands before it: its word is taken for the scheme and for who asks. */
  proxy: z.boolean().default(false),
  tls: tlsSchema.optional(),
  /** Whoever shows this as a bearer token may read /metrics where people sign in. */
  metricsToken: z.string().min(20).max(200).optional(),
});
export type Settings = z.output<typeof settingsSchema>;

/** What is wrong with the settings, in words for who runs the server. */
export class SettingsFault extends Error {
  override readonly name = 'SettingsFault';
}

export const SETTINGS_FILE = 'settings.json';

const isYes = (text: string | undefined): boolean | undefined =>
  text === undefined ? undefined : ['on', 'yes', 'true', '1'].includes(text.toLowerCase());

function fromEnvironment(env: NodeJS.ProcessEnv): Record<string, unknown> {
  const { KEEN_RIDGE_TLS_CERT: cert, KEEN_RIDGE_TLS_KEY: key } = env;
  const said = {
    host: env.KEEN_RIDGE_HOST,
    port: env.PORT === undefined ? undefined : Number(env.PORT),
    names: env.KEEN_RIDGE_NAMES?.split(/[\s,]+/).filter(Boolean),
    signIn: isYes(env.KEEN_RIDGE_SIGN_IN),
    proxy: isYes(env.KEEN_RIDGE_PROXY),
    tls: cert || key ? { cert, key } : undefined,
    metricsToken: env.KEEN_RIDGE_METRICS_TOKEN,
  };
  return Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined));
}

function fromFile(path: string): unknown {
  if (!existsSync(path)) return {};
  try {
    return JSON.parse(readFileSync(path, 'utf8'));
  } catch (error) {
    throw new SettingsFault(`${path} is no JSON: ${reasonOf(error)}`);
  }
}

/** Whether only this machine reaches an address (RFC 6890: 127.0.0.0/8, ::1). */
export const isLoopback = (host: string): boolean =>
  host === 'localhost' || host === '::1' || (isIP(host) === 4 && host.startsWith('127.'));

/**
 * The settings of a data folder: of its settings.json (or the file that KEEN_RIDGE_SETTINGS names), over which the
 * environment stands. Throws SettingsFault.
 */
export function readSettings(dataFolder: string, env: NodeJS.ProcessEnv = process.env): Settings {
  const path = env.KEEN_RIDGE_SETTINGS ?? join(dataFolder, SETTINGS_FILE);
  if (env.KEEN_RIDGE_SETTINGS && !existsSync(path)) throw new SettingsFault(`There is no ${path}.`);
  const file = settingsSchema.partial().safeParse(fromFile(path));
  if (!file.success) throw new SettingsFault(`${path}: ${firstFault(file.error)}`);
  const read = settingsSchema.safeParse({ ...file.data, ...fromEnvironment(env) });
  if (!read.success) throw new SettingsFault(`The settings: ${firstFault(read.error)}`);
  const settings = { ...read.data, signIn: read.data.signIn || !isLoopback(read.data.host) };
  if (!isLoopback(settings.host) && settings.names.length === 0)
    throw new SettingsFault(
      'A server that others reach must know its names: set KEEN_RIDGE_NAMES, or "names" in settings.json, to what browsers call it.',
    );
  return settings;
}
