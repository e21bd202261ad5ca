/** The schema, then the world, in one process: starting another for each costs a second. `empty`: no sample world, only its first administrator. */
await import('../migrate');
await import(process.argv[2] === 'empty' ? '../../demo/first-person' : '../../demo/load');
