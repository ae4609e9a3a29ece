import { reasonOf } from '@keen-ridge/core/units';
import { useState } from 'react';
import { Button } from '../ui/button.tsx';
import { Dialog } from '../ui/dialog.tsx';
import { TextField } from '../ui/fields/text-field.tsx';
import { wallWords as say } from '../words/wall.ts';

interface NewProductionDialogProps {
  onClose: () => void;
  onMake: (name: string) => Promise<void>;
  focusAfter: () => HTMLElement | null;
}

export function NewProductionDialog({ onClose, onMake, focusAfter }: NewProductionDialogProps) {
  const [name, setName] = useState('');
  const [fault, setFault] = useState<string>();
  const [making, setMaking] = useState(false);
  return (
    <Dialog
      open
      onClose={onClose}
      title={say.newProduction}
      description={say.itHoldsTheShotsOf}
      focusAfter={focusAfter}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim() === '') setFault(say.giveItAName);
          else {
            setMaking(true);
            onMake(name.trim()).catch((error: unknown) => {
              setMaking(false);
              setFault(reasonOf(error));
            });
          }
        }}
      >
        <TextField
          label={say.name}
          value={name}
          maxLength={200}
          fault={fault}
          onChange={(event) => setName(event.target.value)}
        />
        <div className="mt-5 flex justify-end gap-2">
          <Button onClick={onClose}>{say.cancel}</Button>
          <Button type="submit" tone="strong" disabled={making}>
            {say.makeProduction}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
