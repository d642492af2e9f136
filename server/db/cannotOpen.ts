/**
 * Why a workshop cannot be opened: one sentence for whoever started the server, with what to do. Nothing was written.
 */
export class CannotOpen extends Error {}

export const BACKUPS = "ultraform restore FILE";

export const cannotOpen = {
  inUse: (folder: string) =>
    new CannotOpen(
      `The data in ${folder} is in use by another Ultraform server. Stop that one, or choose another ` +
        "folder with --data or ULTRAFORM_DATA.",
    ),
  newer: (where: string) =>
    new CannotOpen(
      `The data in ${where} was written by a newer release of Ultraform: start that release, or choose ` +
        "another folder with --data.",
    ),
  readOnly: (folder: string, why: string) =>
    new CannotOpen(
      `Nothing can be written in ${folder} (${why}): make it writable, or choose another folder with --data.`,
    ),
  full: (folder: string) =>
    new CannotOpen(`The disk of ${folder} is full: make room for at least 100 MB and start again.`),
  missing: (folder: string, last: string) =>
    new CannotOpen(
      `${folder} held a workshop when it was last opened (${last.slice(0, 10)}) and is empty or missing ` +
        `now: connect its disk, restore a backup into it with “${BACKUPS}”, or begin a new workshop there ` +
        "with --new.",
    ),
  damaged: (folder: string, why: string) =>
    new CannotOpen(
      `The database in ${folder} is damaged (${why.replace(/\s+/g, " ").slice(0, 120)}) and no snapshot ` +
        `of it can be read: restore a backup with “${BACKUPS}”, or choose another folder with --data. ` +
        "Nothing was changed in it.",
    ),
  emptied: () =>
    new CannotOpen(
      "The database server holds none of the tables that were there when it was last opened: restore a " +
        "backup into it, or name another database in DATABASE_URL.",
    ),
  foreign: (folder: string) =>
    new CannotOpen(
      `${folder} holds other files and no workshop: choose an empty folder with --data, or one that was ` +
        "a workshop before.",
    ),
};
