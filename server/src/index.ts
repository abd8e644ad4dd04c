export { createAccount, DEMO_PASSWORD } from './accounts/routes';
export { appendEvents, eventsOf, remake } from './assess/append';
export { composeAndKeep, publishPack } from './classes/packs';
export { application } from './house/application';
export { readSetting, writeSetting, type Caller, type House } from './house/context';
export { DirectoryTaken, directoryHolder, openStore, restoreStore, type Database, type Store } from './house/database';
export * as tables from './house/schema';
export { seedDemo } from './house/seedDemo';
export { listen, type Listening } from './house/serve';
