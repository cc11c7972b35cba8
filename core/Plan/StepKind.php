<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Plan\Steps\AddMedia;
use Ylema\Plan\Steps\ArchiveFile;
use Ylema\Plan\Steps\ChangeMedia;
use Ylema\Plan\Steps\DeleteFile;
use Ylema\Plan\Steps\DropRedirect;
use Ylema\Plan\Steps\EditRecord;
use Ylema\Plan\Steps\MoveFile;
use Ylema\Plan\Steps\Redirect;
use Ylema\Plan\Steps\RemoveMedia;
use Ylema\Plan\Steps\RestFile;
use Ylema\Plan\Steps\SealBag;
use Ylema\Plan\Steps\UnarchiveFile;
use Ylema\Plan\Steps\UnsealBag;
use Ylema\Plan\Steps\WakeFile;
use Ylema\Plan\Steps\WriteFile;

/** All that a plan can be made of. Each kind has its inverse among the others. */
enum StepKind: string
{
    case WriteFile = 'write-file';
    case MoveFile = 'move-file';
    case DeleteFile = 'delete-file';
    case RestFile = 'rest-file';
    case WakeFile = 'wake-file';
    case ArchiveFile = 'archive-file';
    case UnarchiveFile = 'unarchive-file';
    case SealBag = 'seal-bag';
    case UnsealBag = 'unseal-bag';
    case AddMedia = 'add-media';
    case ChangeMedia = 'change-media';
    case RemoveMedia = 'remove-media';
    case EditRecord = 'edit-record';
    case Redirect = 'redirect';
    case DropRedirect = 'drop-redirect';

    /** What is not so where a step of this kind was refused, behind what it is about. */
    public function refusal(): string
    {
        return match ($this) {
            self::WriteFile => 'was not written',
            self::MoveFile => 'was not moved',
            self::DeleteFile, self::RemoveMedia => 'was not removed',
            self::RestFile => 'was not laid to rest',
            self::WakeFile, self::UnarchiveFile => 'did not come back',
            self::ArchiveFile, self::SealBag => 'was not sealed',
            self::UnsealBag => 'was not opened',
            self::AddMedia => 'is not in the list of media',
            self::ChangeMedia, self::EditRecord => 'was not changed',
            self::Redirect => 'sends nobody on',
            self::DropRedirect => 'still sends visitors on',
        };
    }

    /**
     * Whether what it needs has to be there as long as it stays: it names that. Others only wait for it, so that no row
     * goes before its files.
     */
    public function names(): bool
    {
        return in_array($this, [self::EditRecord, self::AddMedia, self::ChangeMedia, self::MoveFile], true);
    }

    /**
     * Whether what needs such a step is taken back only together with it: a file lies in one place, and what names it
     * there would name nothing.
     */
    public function takesAlong(): bool
    {
        return in_array($this, [self::MoveFile, self::RestFile, self::WakeFile], true);
    }

    /** @param  array<mixed>  $data as Step::toArray() made it */
    public function restore(array $data): Step
    {
        return match ($this) {
            self::WriteFile => WriteFile::fromArray($data),
            self::MoveFile => MoveFile::fromArray($data),
            self::DeleteFile => DeleteFile::fromArray($data),
            self::RestFile => RestFile::fromArray($data),
            self::WakeFile => WakeFile::fromArray($data),
            self::ArchiveFile => ArchiveFile::fromArray($data),
            self::UnarchiveFile => UnarchiveFile::fromArray($data),
            self::SealBag => SealBag::fromArray($data),
            self::UnsealBag => UnsealBag::fromArray($data),
            self::AddMedia => AddMedia::fromArray($data),
            self::ChangeMedia => ChangeMedia::fromArray($data),
            self::RemoveMedia => RemoveMedia::fromArray($data),
            self::EditRecord => EditRecord::fromArray($data),
            self::Redirect => Redirect::fromArray($data),
            self::DropRedirect => DropRedirect::fromArray($data),
        };
    }
}
