/** The schema, then the world, in one process: starting another for each costs a second. `empty`: no sample world, only its first administrator. */
const world = process.argv[2] === 'empty' ? '../../demo/first-person' : '../../demo/load';
await import('../migrate');
await import(world);

export {};
