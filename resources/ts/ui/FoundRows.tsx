import type { FoundFile, MediaRow, RecordLine } from '@/api/types';
import { Picture } from './Picture';
import { StandingShape } from './Standing';
import { fileName, folderOf, kindWord, many, pixels } from './words';

function FoundPicture({ file, of }: { file: number | null; of: Pick<MediaRow, 'sha256' | 'mime'> }) {
  return (
    <Picture
      fileId={file}
      sha={of.sha256}
      mime={of.mime}
      alt=""
      className="h-9 w-12 shrink-0 rounded"
      fit="cover"
    />
  );
}

/** The inside of a line that stands for an item, a file or a record, wherever one is found. */
export function FoundItem({ item }: { item: MediaRow }) {
  return (
    <>
      <FoundPicture file={item.file_id} of={item} />
      <span className="min-w-0 flex-1">
        <span className="block truncate font-semibold">{item.title || fileName(item.path)}</span>
        <span className="path block truncate text-soft">{item.path}</span>
      </span>
      <StandingShape standing={item.standing} />
      <span className="figures w-24 shrink-0 text-right text-[0.85rem] text-soft max-sm:hidden">
        {many(item.uses, 'reference')}
      </span>
    </>
  );
}

export function FoundFileLine({ file }: { file: FoundFile }) {
  return (
    <>
      <FoundPicture file={file.id} of={file} />
      <span className="path min-w-0 flex-1 truncate">
        <span className="text-soft">{folderOf(file.path)}</span>
        {fileName(file.path)}
      </span>
      <span className="figures shrink-0 text-[0.85rem] text-soft">
        {pixels(file.width, file.height) ?? 'rendition'}
      </span>
    </>
  );
}

export function FoundRecord({ record }: { record: RecordLine }) {
  return (
    <>
      <StandingShape standing={record.state} />
      <span className="min-w-0 flex-1 truncate font-semibold">{record.title}</span>
      <span className="path min-w-0 max-w-[45%] truncate text-soft max-sm:hidden">
        {record.is_page && record.address !== null ? `/${record.address}` : ''}
      </span>
      <span className="w-20 shrink-0 text-right text-[0.85rem] text-soft">{kindWord(record.kind)}</span>
    </>
  );
}
