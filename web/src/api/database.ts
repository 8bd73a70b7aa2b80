import { openDB, type DBSchema, type IDBPDatabase } from "idb";

/**
 * A database of this device (IndexedDB), opened when it is first asked for. It is opened anew where it could not be,
 * and once the browser closed it: as when a person, or a browser short of room, has emptied the device's storage under
 * the open page. That is told to gone.
 */
export function database<S extends DBSchema | unknown = unknown>(
  name: string,
  upgrade: (db: IDBPDatabase<S>) => void,
  gone: () => void = () => undefined,
): () => Promise<IDBPDatabase<S>> {
  let opened: Promise<IDBPDatabase<S>> | undefined;
  return () => {
    if (opened) return opened;
    const closed = () => {
      if (opened !== opening) return;
      opened = undefined;
      gone();
    };
    const opening = openDB<S>(name, 1, {
      upgrade,
      terminated: closed,
      // somebody deletes it, or a newer program has another form of it: neither waits for this page
      blocking: (_, __, e) => {
        (e.target as IDBDatabase).close();
        closed();
      },
    });
    opening.catch(() => {
      if (opened === opening) opened = undefined;
    });
    return (opened = opening);
  };
}
