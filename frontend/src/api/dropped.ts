/** The files of a drop or a paste, those in folders too. */

/** More than this at once is a mistake more often than a wish. */
export const MOST_FILES = 500;

/** Return all files, in the order in which they were given; folders by name. */
export async function filesOf(transfer: DataTransfer | null): Promise<readonly File[]> {
  if (!transfer) return [];
  // Entries can be asked for only while the event is being handled: before any wait.
  const entries = [...transfer.items].flatMap((item) => item.webkitGetAsEntry?.() ?? []);
  if (!entries.some((entry) => entry.isDirectory)) return [...transfer.files];
  const found: File[] = [];
  for (const entry of entries) await gather(entry, found);
  return found;
}

async function gather(entry: FileSystemEntry, found: File[]): Promise<void> {
  if (found.length > MOST_FILES || entry.name.startsWith(".")) return;
  if (isFile(entry)) {
    found.push(await new Promise<File>((resolve, reject) => entry.file(resolve, reject)));
    return;
  }
  if (!isFolder(entry)) return;
  const inside = await entriesOf(entry);
  inside.sort((one, other) => one.name.localeCompare(other.name, undefined, { numeric: true }));
  for (const inner of inside) await gather(inner, found);
}

async function entriesOf(folder: FileSystemDirectoryEntry): Promise<FileSystemEntry[]> {
  const reader = folder.createReader();
  const found: FileSystemEntry[] = [];
  // A reader hands out some at a time, and nothing when all are told.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) =>
      reader.readEntries(resolve, reject),
    );
    if (some.length === 0 || found.length > MOST_FILES) return found;
    found.push(...some);
  }
}

const isFile = (entry: FileSystemEntry): entry is FileSystemFileEntry => entry.isFile;
const isFolder = (entry: FileSystemEntry): entry is FileSystemDirectoryEntry => entry.isDirectory;
