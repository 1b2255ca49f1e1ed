import type { Entry } from './entry.js';
import { ofPerson } from '../signed.js';
import type { EntryStore } from './ports.js';

/** Where several people sign in in one browser, nobody sends what another one has left. */
const name = (): string => ofPerson('oquel');
const STORE = 'entries';

/** Entries of a project in the browser's database, where they outlive windows and the browser. */
export function browserStore(project: string): EntryStore {
  return {
    all: () =>
      transaction('readonly', (store) => store.index('project').getAll(project) as IDBRequest<Entry[]>),
    put: async (entries) => {
      await transaction('readwrite', (store) => {
        for (const entry of entries) store.put(entry);
      });
    },
    remove: async (keys) => {
      await transaction('readwrite', (store) => {
        for (const key of keys) store.delete(key);
      });
    },
  };
}

/** How many entries are kept, by project. None where the browser has no such database. */
export async function keptEntries(): Promise<Map<string, number>> {
  const counts = new Map<string, number>();
  try {
    const all = await transaction('readonly', (store) => store.getAll() as IDBRequest<Entry[]>);
    for (const { project } of all) counts.set(project, (counts.get(project) ?? 0) + 1);
  } catch {
    // Then nothing is kept either.
  }
  return counts;
}

let opening: Promise<IDBDatabase> | null = null;
let opened = '';
function database(): Promise<IDBDatabase> {
  // Whoever was here before may have signed out.
  if (opened !== name()) opening = null;
  opened = name();
  opening ??= new Promise((resolve, reject) => {
    const request = indexedDB.open(opened, 1);
    request.onupgradeneeded = () => {
      request.result.createObjectStore(STORE, { keyPath: 'key' }).createIndex('project', 'project');
    };
    request.onsuccess = () => {
      const db = request.result;
      // Another window may want a newer form of the database.
      db.onversionchange = () => db.close();
      db.onclose = () => (opening = null);
      resolve(db);
    };
    request.onblocked = request.onerror = () => {
      opening = null;
      reject(request.error ?? new Error('the browser’s database is in use'));
    };
  });
  return opening;
}
/** Resolves once the transaction is written. */
async function transaction<T>(
  mode: IDBTransactionMode,
  use: (store: IDBObjectStore) => IDBRequest<T> | void,
): Promise<T> {
  const db = await database();
  return new Promise((resolve, reject) => {
    const tx = db.transaction(STORE, mode, { durability: 'strict' });
    const request = use(tx.objectStore(STORE));
    tx.oncomplete = () => resolve((request ? request.result : undefined) as T);
    tx.onabort = tx.onerror = () => reject(tx.error ?? new Error('the browser has not kept it'));
  });
}
