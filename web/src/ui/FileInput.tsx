import type { Ref } from 'react';

/** The browser's own choice of files, opened by a button elsewhere. The same file may be chosen again. */
export function FileInput({
  ref,
  label,
  accept,
  multiple,
  onFiles,
}: {
  ref: Ref<HTMLInputElement>;
  label: string;
  accept: string;
  multiple?: boolean;
  onFiles: (files: File[]) => void;
}) {
  return (
    <input
      ref={ref}
      type="file"
      multiple={multiple}
      accept={accept}
      className="hidden"
      aria-label={label}
      onChange={(e) => {
        const files = [...(e.target.files ?? [])];
        e.target.value = '';
        if (files.length) onFiles(files);
      }}
    />
  );
}
