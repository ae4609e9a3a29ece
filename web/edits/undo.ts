import { deleteSelected as deleteSelectedKeys } from '@keen-ridge/core/edits/keys';
import { deletePlanes } from '@keen-ridge/core/edits/planes';
import { planesOf } from '@keen-ridge/core/scene/records';
import { toast } from 'sonner';
import { keySelection } from '../session/choices/key-selection.ts';
import { editWords } from '../session/edit-words.ts';
import type { Session } from '../session/session.ts';

export function undoOnce(session: Session): void {
  const entry = session.undo();
  if (entry) toast(`Undone: ${editWords(entry)}`, { duration: 1800 });
}

export function redoOnce(session: Session): void {
  const entry = session.redo();
  if (entry) toast(`Redone: ${editWords(entry)}`, { duration: 1800 });
}

export function deleteSelected(session: Session): void {
  const { scene, selectedKeys, selection } = session.state;
  if (selectedKeys.length > 0) {
    session.commit(
      'delete-keys',
      selectedKeys.length === 1 ? 'one key' : `${selectedKeys.length} keys`,
      deleteSelectedKeys(scene, keySelection(selectedKeys)),
    );
    session.selectKeys([]);
  } else if (selection.length > 0) {
    const gone = planesOf(scene).filter((plane) => selection.includes(plane.id));
    const subject = gone.length === 1 ? (gone[0]?.name ?? '') : `${gone.length} planes`;
    session.commit('delete-planes', subject, deletePlanes(scene, new Set(selection)));
    session.select([]);
    toast(`Deleted ${subject}`, { action: { label: 'Undo', onClick: () => undoOnce(session) } });
  }
}
