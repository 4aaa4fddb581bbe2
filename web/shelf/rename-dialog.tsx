import type { ShelfView } from '@tambur/server';
import { useState } from 'react';
import { useRenameSource } from '../api/shelf.ts';
import { Button } from '../ui/button.tsx';
import { TextField } from '../ui/field.tsx';
import { Modal } from '../ui/modal.tsx';
import { notify, notifyFailure } from '../ui/notify.tsx';

/** Gives a source another name; its bytes stay as they are. */
export function RenameDialog({ source, onClose }: { source: ShelfView; onClose: () => void }) {
  const [name, setName] = useState(source.name);
  const rename = useRenameSource();
  const take = () => {
    const wanted = name.trim();
    if (!wanted || wanted === source.name) return onClose();
    rename.mutate(
      { id: source.id, name: wanted },
      {
        onSuccess: () => {
          onClose();
          notify(`Renamed to ${wanted}`, {
            label: 'Undo',
            onClick: () => rename.mutate({ id: source.id, name: source.name }),
          });
        },
        onError: notifyFailure,
      },
    );
  };
  return (
    <Modal
      title="Rename"
      onClose={onClose}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="main" disabled={!name.trim()} onClick={take}>
            Rename
          </Button>
        </>
      }
    >
      <TextField
        label="Name"
        value={name}
        maxLength={200}
        data-autofocus
        onFocus={(event) =>
          event.target.setSelectionRange(0, name.lastIndexOf('.') > 0 ? name.lastIndexOf('.') : name.length)
        }
        onChange={(event) => setName(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && take()}
      />
      <p className="mt-2 text-sm text-graphite">
        Only the name on the shelf changes; the file's bytes are never altered.
      </p>
    </Modal>
  );
}
