import type { SoundKind } from '@keen-ridge/core/art/sound';
import type { HandoffRequest, HandoffState, ShelfContent } from '@keen-ridge/core/contract';
import { ROLES } from '@keen-ridge/core/contract/people';

import type { TakenLook } from '@keen-ridge/core/edits/look';
import type { EditAction, Op, Patch } from '@keen-ridge/core/history';
import type { ArtRef, Plane, Scene, SetId } from '@keen-ridge/core/scene';
import type { SoundId } from '@keen-ridge/core/scene/sound';
import type { SurveyLimits } from '@keen-ridge/core/survey';
import type { Ease } from '@keen-ridge/core/timing';
import { sql } from 'drizzle-orm';
import {
  boolean,
  customType,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  serial,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';

const bytea = customType<{ data: Uint8Array; driverData: Buffer }>({
  dataType: () => 'bytea',
  toDriver: (value) => Buffer.from(value.buffer, value.byteOffset, value.byteLength),
  fromDriver: (value) => new Uint8Array(value.buffer, value.byteOffset, value.byteLength),
});

const madeAt = () => timestamp('made_at', { withTimezone: true }).notNull().defaultNow();
const deletedAt = () => timestamp('deleted_at', { withTimezone: true });

export const productions = pgTable('productions', {
  id: uuid('id').primaryKey().defaultRandom(),
  name: text('name').notNull(),
  /** What counts as too much in its shots; null: as usual. */
  surveyLimits: jsonb('survey_limits').$type<SurveyLimits>(),
  madeAt: madeAt(),
  deletedAt: deletedAt(),
});

export const shots = pgTable(
  'shots',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    productionId: uuid('production_id')
      .notNull()
      .references(() => productions.id),
    name: text('name').notNull(),
    scene: jsonb('scene').$type<Scene>().notNull(),
    revision: integer('revision').notNull().default(1),
    /** Among the shots of its production, as the artist has put them; null: after those, by name. */
    place: integer('place'),
    madeAt: madeAt(),
    deletedAt: deletedAt(),
  },
  (table) => [index('shots_by_production').on(table.productionId)],
);

export const EDIT_STATES = ['done', 'undone', 'superseded'] as const;

const author = () => ({
  /** Empty: made before there were authors, and everybody's to undo. */
  authorId: text('author_id').notNull().default(''),
  authorName: text('author_name').notNull().default(''),
});

/** The edit log. `done` edits are on the undo stack of their author, `undone` ones on the redo stack, by `atRevision`. */
export const edits = pgTable(
  'edits',
  {
    id: uuid('id').primaryKey(),
    shotId: uuid('shot_id')
      .notNull()
      .references(() => shots.id),
    seq: integer('seq').notNull(),
    state: text('state', { enum: EDIT_STATES }).notNull().default('done'),
    action: text('action').$type<EditAction>().notNull(),
    subject: text('subject').notNull(),
    patch: jsonb('patch').$type<Patch>().notNull(),
    /** Only of edits that stand in an older form: see `upgradeHistories`. */
    inverse: jsonb('inverse').$type<unknown>(),
    /** The revision at which it was last done or undone. */
    atRevision: integer('at_revision').notNull().default(0),
    ...author(),
    /** Of the patch as text: how much of a history travels is bounded by it. */
    bytes: integer('bytes').notNull().default(0),
    madeAt: madeAt(),
  },
  (table) => [
    uniqueIndex('edits_in_order').on(table.shotId, table.seq),
    index('edits_on_stacks').on(table.shotId, table.authorId, table.state, table.atRevision),
  ],
);

/**
 * Every op that was acknowledged, so that one sent twice is done once, with what it did, so that windows can follow. Ops
 * of older versions did not say what they did.
 */
export const ops = pgTable(
  'ops',
  {
    opId: uuid('op_id').primaryKey(),
    shotId: uuid('shot_id')
      .notNull()
      .references(() => shots.id),
    /** The one that it made. */
    revision: integer('revision').notNull(),
    kind: text('kind').$type<Op['kind']>(),
    editId: uuid('edit_id'),
    patch: jsonb('patch').$type<Patch>(),
    ...author(),
    madeAt: madeAt(),
  },
  (table) => [index('ops_in_order').on(table.shotId, table.revision)],
);

/** Images by the SHA-256 of their PNG bytes: stored once however often they are used. */
export const art = pgTable('art', {
  id: text('id').primaryKey(),
  facts: jsonb('facts').$type<ArtRef>().notNull(),
  /** A tiny picture for finding the next version; null in art stored before there were likenesses. */
  likeness: jsonb('look').$type<number[]>(),
  png: bytea('png').notNull(),
  madeAt: madeAt(),
});

/** The art shelf: art kept for reuse across the shots of a production. */
export const shelfPieces = pgTable(
  'shelf_pieces',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    productionId: uuid('production_id')
      .notNull()
      .references(() => productions.id),
    name: text('name').notNull(),
    content: jsonb('content').$type<ShelfContent>().notNull(),
    /** Where it came from, in words. */
    from: text('came_from').notNull(),
    madeAt: madeAt(),
    deletedAt: deletedAt(),
  },
  (table) => [index('shelf_pieces_by_production').on(table.productionId)],
);

/** Whole set-ups as they once were. Rows are only added. */
export const takes = pgTable(
  'takes',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    shotId: uuid('shot_id')
      .notNull()
      .references(() => shots.id),
    number: integer('number').notNull(),
    name: text('name').notNull(),
    note: text('note').notNull(),
    scene: jsonb('scene').$type<Scene>().notNull(),
    madeAt: madeAt(),
  },
  (table) => [uniqueIndex('takes_by_number').on(table.shotId, table.number)],
);

/** The ease shelf: the artist's own eases, across all productions. */
export const keptEases = pgTable('kept_eases', {
  id: uuid('id').primaryKey().defaultRandom(),
  name: text('name').notNull(),
  ease: jsonb('ease').$type<Ease>().notNull(),
  madeAt: madeAt(),
  deletedAt: deletedAt(),
});

/** The shelf of looks: kept for the shots of a production. */
export const keptLooks = pgTable(
  'kept_looks',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    productionId: uuid('production_id')
      .notNull()
      .references(() => productions.id),
    name: text('name').notNull(),
    look: jsonb('look').$type<TakenLook>().notNull(),
    madeAt: madeAt(),
    deletedAt: deletedAt(),
  },
  (table) => [index('kept_looks_by_production').on(table.productionId)],
);

/** Staged planes that several shots follow. */
export const sets = pgTable(
  'sets',
  {
    id: uuid('id').primaryKey().$type<SetId>(),
    productionId: uuid('production_id')
      .notNull()
      .references(() => productions.id),
    name: text('name').notNull(),
    planes: jsonb('planes').$type<Plane[]>().notNull(),
    /** Counts up with each change of its planes. */
    revision: integer('revision').notNull().default(1),
    madeAt: madeAt(),
    deletedAt: deletedAt(),
  },
  (table) => [index('sets_by_production').on(table.productionId)],
);

/** Sounds by the SHA-256 of their files. */
export const sounds = pgTable('sounds', {
  id: text('id').primaryKey().$type<SoundId>(),
  kind: text('kind').$type<SoundKind>().notNull(),
  bytes: bytea('bytes').notNull(),
  durationSeconds: doublePrecision('duration_seconds').notNull(),
  /** How loud it is, 100 times a second: the largest of each hundredth, 0 to 255. */
  peaks: bytea('peaks').notNull(),
  madeAt: madeAt(),
});

export const handoffs = pgTable(
  'handoffs',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    shotId: uuid('shot_id')
      .notNull()
      .references(() => shots.id),
    /** The set-up as it was when the hand-off was asked for. */
    scene: jsonb('scene').$type<Scene>().notNull(),
    shotName: text('shot_name').notNull(),
    request: jsonb('request').$type<HandoffRequest>().notNull(),
    progress: jsonb('progress').$type<HandoffState>().notNull(),
    /** Number of the lock that the server which writes it holds while it lives; null where none has claimed it yet. */
    deskLock: integer('desk_lock'),
    /** Where that server keeps its files. */
    deskFolder: text('desk_folder'),
    /** Whose turn it is: the least first. Two change places by changing numbers. */
    queueNumber: serial('queue_number').notNull(),
    madeAt: madeAt(),
  },
  (table) => [index('handoffs_by_shot').on(table.shotId)],
);

/** Frames as PNG by what they were drawn from: a cache that any number of hand-offs and processes share. */
export const renderedFrames = pgTable(
  'rendered_frames',
  {
    key: text('key').primaryKey(),
    png: bytea('png').notNull(),
    bytes: integer('bytes').notNull(),
    usedAt: timestamp('used_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [index('rendered_frames_by_use').on(table.usedAt)],
);

export const CHUNK_STATES = ['waiting', 'taken', 'done'] as const;

/** A few frames of a hand-off that one process renders in one go. */
export const renderChunks = pgTable(
  'render_chunks',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    handoffId: uuid('handoff_id')
      .notNull()
      .references(() => handoffs.id, { onDelete: 'cascade' }),
    /** Which pictures of the hand-off, counted from 0, and the keys under which they are kept. */
    frames: jsonb('frames').$type<{ item: number; key: string }[]>().notNull(),
    state: text('state', { enum: CHUNK_STATES }).notNull().default('waiting'),
    framesDone: integer('frames_done').notNull().default(0),
    /** The advisory lock that the process holds as long as it lives. */
    workerLock: integer('worker_lock'),
    /** The build that its keys are for: another one draws other pixels. */
    engine: text('engine').notNull().default(''),
    /** How often a process has begun it. */
    attempts: integer('attempts').notNull().default(0),
  },
  (table) => [index('render_chunks_by_handoff').on(table.handoffId)],
);

/** Processes that render, by the lock that they hold while they live, and the build that they draw by. */
export const renderWorkers = pgTable('render_workers', {
  lock: integer('lock').primaryKey(),
  engine: text('engine').notNull(),
  madeAt: madeAt(),
});

/** Who may sign in. Those that were put away keep their rows: histories name them. */
export const people = pgTable(
  'people',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    name: text('name').notNull(),
    /** The name as it is looked for: told apart without regard to capitals. */
    key: text('key').notNull(),
    /** Argon2id, with its salt and parameters. */
    password: text('password').notNull(),
    isAdministrator: boolean('is_administrator').notNull().default(false),
    madeAt: madeAt(),
    deletedAt: deletedAt(),
  },
  (table) => [uniqueIndex('people_by_key').on(table.key).where(sql`deleted_at is null`)],
);

/** Who is signed in, by the SHA-256 of what their browser shows: a copy of this table lets nobody in. */
export const sessions = pgTable(
  'sessions',
  {
    token: text('token').primaryKey(),
    personId: uuid('person_id')
      .notNull()
      .references(() => people.id, { onDelete: 'cascade' }),
    usedAt: timestamp('used_at', { withTimezone: true }).notNull().defaultNow(),
    madeAt: madeAt(),
  },
  (table) => [index('sessions_by_person').on(table.personId)],
);

/** Who may do what in which production. */
export const members = pgTable(
  'members',
  {
    productionId: uuid('production_id')
      .notNull()
      .references(() => productions.id, { onDelete: 'cascade' }),
    personId: uuid('person_id')
      .notNull()
      .references(() => people.id, { onDelete: 'cascade' }),
    role: text('role', { enum: ROLES }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.productionId, table.personId] }),
    index('members_by_person').on(table.personId),
  ],
);

/** Small facts about this database, such as whether the demo has been seeded. */
export const facts = pgTable('facts', { key: text('key').primaryKey(), value: text('value').notNull() });
