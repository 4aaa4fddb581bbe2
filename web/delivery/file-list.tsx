import { formatBytes, formatLength, worstOf } from '@tambur/core';
import type { ArtifactView } from '@tambur/server';
import { Download, FileText, Folder, Pause, Play } from 'lucide-react';
import { useStore } from 'zustand';
import { deliveryHrefs } from '../api/delivery-files.ts';
import { Button } from '../ui/button.tsx';
import { VerdictMark } from '../ui/verdict.tsx';
import type { FilePlayer } from './file-player.ts';
import { findingsOf } from './verdicts.ts';

interface Props {
  readonly files: readonly ArtifactView[];
  readonly deliveryId: string;
  readonly player: FilePlayer;
  readonly shown: string | null;
  readonly onShow: (path: string) => void;
}

const folderIn = (path: string) => path.slice(0, Math.max(0, path.lastIndexOf('/')));

/** The files as they will stand on the card, folder by folder. */
export function FileList({ files, ...rest }: Props) {
  const folders = [...new Set(files.map(({ path }) => folderIn(path)))];
  return (
    <div className="border-t border-ink">
      {folders.map((folder) => (
        <div key={folder}>
          {(folder !== '' || folders.length > 1) && (
            <p className="figure flex items-center gap-1.5 border-b border-hairline py-1 text-sm text-graphite">
              <Folder className="size-3.5" aria-hidden /> {folder === '' ? 'top of the card' : `${folder}/`}
            </p>
          )}
          <ul className={folder === '' ? '' : 'pl-4'} aria-label={folder === '' ? 'Files' : `Files in ${folder}`}>
            {files
              .filter(({ path }) => folderIn(path) === folder)
              .map((file) => (
                <FileRow key={file.path} file={file} {...rest} />
              ))}
          </ul>
        </div>
      ))}
    </div>
  );
}

function FileRow({ file, deliveryId, player, shown, onShow }: Omit<Props, 'files'> & { readonly file: ArtifactView }) {
  const { path, parts, role, places } = file;
  const playing = useStore(player.store, (state) => state.playing === path);
  const problem = useStore(player.store, (state) => (state.problem?.path === path ? state.problem.message : null));
  const href = deliveryHrefs.file(deliveryId, path);
  const worst = worstOf(findingsOf(file));
  const facts = role === 'sound' ? parts[0]?.facts : undefined;
  const isShown = shown === path;
  return (
    <li
      className={`border-b border-l-4 border-b-hairline ${isShown ? 'border-l-pine bg-pine-tint' : 'border-l-transparent'}`}
    >
      <div className="grid grid-cols-[2.25rem_minmax(0,1fr)_auto_2rem] items-center gap-x-2 py-1 pl-1">
        {facts ? (
          <Button
            kind="icon"
            aria-label={playing ? `Stop ${path}` : `Play ${path}`}
            onClick={() => void player.toggle(path, facts, href)}
          >
            {playing ? <Pause className="size-4" aria-hidden /> : <Play className="size-4" aria-hidden />}
          </Button>
        ) : (
          <FileText className="size-4 justify-self-center text-graphite" aria-hidden />
        )}
        <Button
          kind="bare"
          aria-label={`Show ${path}`}
          aria-current={isShown ? 'true' : undefined}
          onClick={() => onShow(path)}
          className="min-w-0 text-left"
        >
          <span className="figure block truncate font-medium" title={path}>
            {path.slice(folderIn(path).length).replace('/', '')}
          </span>
          <span className="block truncate text-sm text-graphite">
            {file.title}
            {places.length > 0 && `, ${places.length > 2 ? `${places.length} places` : places.join('; ')}`}
          </span>
        </Button>
        <span className="figure text-right text-sm">
          <span className="flex items-center justify-end gap-1.5">
            {formatBytes(file.bytes)} {parts.length > 0 && <VerdictMark verdict={worst} silent />}
          </span>
          {facts && (
            <span className="block text-xs text-graphite max-sm:hidden">
              {formatLength(facts.frames, facts.sampleRate)}
            </span>
          )}
        </span>
        <a href={href} download={path} className="p-1.5 text-graphite hover:text-ink" aria-label={`Download ${path}`}>
          <Download className="size-4" aria-hidden />
        </a>
      </div>
      {problem && (
        <p role="alert" className="mt-1 ml-12 text-sm text-brick">
          {problem}
        </p>
      )}
    </li>
  );
}
