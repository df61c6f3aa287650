'use client';
import { Button } from 'antd';

interface Props {
  /** Files with texts that are not saved, besides the open one. */
  paths: string[];
  saving: boolean;
  onOpen: (path: string) => void;
  onSaveAll: () => void;
}

/** Files that belong together and are not saved yet: what the page shows is made with them. */
export function UnsavedFiles({ paths, saving, onOpen, onSaveAll }: Props) {
  if (!paths.length) return null;
  return (
    <div className="banner-line unsaved-files">
      <span>
        Not saved either:{' '}
        {paths.map((path) => (
          <button key={path} type="button" onClick={() => onOpen(path)}>
            {path}
          </button>
        ))}
      </span>
      <Button size="small" loading={saving} onClick={onSaveAll} title="Save all (Ctrl Shift S)">
        Save all
      </Button>
    </div>
  );
}
