import { useBlocker } from 'react-router';
import { Confirm } from '../ui/confirm.tsx';
import { type Imports, isBusy } from './import-store.ts';

/** Asks before a view is left while files are still on their way to it. `text` says what leaving means. */
export function LeavingGuard({ imports, text }: { imports: Imports; text: string }) {
  const leaving = useBlocker(() => isBusy(imports.store.getState()));
  if (leaving.state !== 'blocked') return null;
  return (
    <Confirm
      title="Files are still coming in"
      text={text}
      action="Leave"
      refusal="Stay"
      onClose={() => leaving.reset()}
      onConfirm={() => {
        imports.dropAll();
        leaving.proceed();
      }}
    />
  );
}
