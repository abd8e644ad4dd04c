declare module 'fs-native-extensions' {
  /**
   * Takes the exclusive lock of an open file without waiting; the operating system gives it back when the
   * file is closed.
   */
  export function tryLock(fd: number): boolean;
}
