import type { FoundFile, MediaRow, RecordLine } from '@/api/types';
import { Picture } from './Picture';
import { StandingShape } from './Standing';
import { fileName, folderOf, kindWord, many, number } from './words';

/** The inside of a line that stands for an item, a file or a record, wherever one is found. */
export function FoundItem({ item }: { item: MediaRow }) {
  return (
    <>
      <Picture
        fileId={item.file_id}
        sha={item.sha256}
        mime={item.mime}
        alt=""
        className="h-9 w-12 shrink-0 rounded"
        fit="cover"
      />
      <span className="min-w-0 flex-1">
        <span className="block truncate font-semibold">{item.title || fileName(item.path)}</span>
        <span className="path block truncate text-soft">{item.path}</span>
      </span>
      <StandingShape standing={item.standing} />
      <span className="figures w-24 shrink-0 text-right text-[0.85rem] text-soft">
        {many(item.uses, 'reference')}
      </span>
    </>
  );
}

export function FoundFileLine({ file }: { file: FoundFile }) {
  return (
    <>
      <Picture
        fileId={file.id}
        sha={file.sha256}
        mime={file.mime}
        alt=""
        className="h-9 w-12 shrink-0 rounded"
        fit="cover"
      />
      <span className="path min-w-0 flex-1 truncate">
        <span className="text-soft">{folderOf(file.path)}</span>
        {fileName(file.path)}
      </span>
      <span className="figures shrink-0 text-[0.85rem] text-soft">
        {file.width ? `${number(file.width)} × ${number(file.height ?? 0)}` : 'rendition'}
      </span>
    </>
  );
}

export function FoundRecord({ record }: { record: RecordLine }) {
  return (
    <>
      <StandingShape standing={record.state} />
      <span className="min-w-0 flex-1 truncate font-semibold">{record.title}</span>
      <span className="path min-w-0 max-w-[45%] truncate text-soft">
        {record.is_page && record.address !== null ? `/${record.address}` : ''}
      </span>
      <span className="w-20 shrink-0 text-right text-[0.85rem] text-soft">{kindWord(record.kind)}</span>
    </>
  );
}
