import { z } from 'zod';

/** What somebody may do in a production; each may what those before it may. */
export const ROLES = ['look', 'work', 'run'] as const;
export const roleSchema = z.enum(ROLES);
export type Role = z.infer<typeof roleSchema>;

/** Whether a role is enough for what asks for `needed`; null is no role at all. */
export const isEnough = (role: Role | null, needed: Role): boolean =>
  role !== null && ROLES.indexOf(role) >= ROLES.indexOf(needed);

/** Long enough that guessing does not pay, as NIST SP 800-63B, section 3.1.1.2, asks for; short enough to be hashed at once. */
export const PASSWORD_LENGTH = { min: 15, max: 200 } as const;
const newPassword = z
  .string()
  .min(PASSWORD_LENGTH.min, `must have at least ${PASSWORD_LENGTH.min} characters`)
  .max(PASSWORD_LENGTH.max);

/** As it is typed to sign in: told apart without regard to capitals. */
const personNameSchema = z
  .string()
  .trim()
  .min(1)
  .max(80)
  // biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is refused
  .regex(/^[^\u0000-\u001f\u007f]*$/u, 'holds a control character');

export const personSchema = z.strictObject({
  id: z.uuid(),
  name: z.string(),
  isAdministrator: z.boolean(),
});
export type Person = z.infer<typeof personSchema>;

/** Who asks: `signIn` is false on a server that knows nobody and is open to this machine alone. */
export const meSchema = z.strictObject({ signIn: z.boolean(), person: personSchema.nullable() });
export type Me = z.infer<typeof meSchema>;

export const signInSchema = z.strictObject({
  name: z.string().max(200),
  password: z.string().max(PASSWORD_LENGTH.max),
});

export const changePasswordSchema = z.strictObject({
  old: z.string().max(PASSWORD_LENGTH.max),
  password: newPassword,
});

export const newPersonSchema = z.strictObject({
  name: personNameSchema,
  password: newPassword,
  isAdministrator: z.boolean().default(false),
});
export type NewPerson = z.infer<typeof newPersonSchema>;

/** What an administrator changes of a person; a new password ends all their sessions. */
export const changePersonSchema = z.strictObject({
  password: newPassword.optional(),
  isAdministrator: z.boolean().optional(),
});
export type ChangePerson = z.infer<typeof changePersonSchema>;

export const peopleSchema = z.strictObject({ people: z.array(personSchema) });

const memberSchema = z.strictObject({ id: z.uuid(), name: z.string(), role: roleSchema });
export type Member = z.infer<typeof memberSchema>;
export const membersSchema = z.strictObject({ members: z.array(memberSchema) });
export const newMemberSchema = z.strictObject({ name: personNameSchema, role: roleSchema });
export const memberRoleSchema = z.strictObject({ role: roleSchema });
