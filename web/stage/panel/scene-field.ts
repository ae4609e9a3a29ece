import type { EditAction } from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import type { Session } from '../../session/session.ts';

/** Handlers of a number field that shows each value of a drag and keeps the last as one edit. */
export const sceneField = (
  session: Session,
  action: EditAction,
  subject: string,
  toScene: (value: number) => Scene,
) => ({
  onPreview: (value: number) => session.show(toScene(value)),
  onCommit: (value: number) => session.commit(action, subject, toScene(value)),
  onCancel: () => session.show(null),
});
