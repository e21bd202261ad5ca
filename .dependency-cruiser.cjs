const only = (from, to) => ({ from: { path: from }, to });

module.exports = {
  forbidden: [
    {
      name: 'no-cycles',
      severity: 'error',
      comment:
        'A circle cannot be understood from any of its ends. The typing rules of nodes call one another and are one unit.',
      from: { pathNot: '^src/core/expression/(nodes|read)' },
      to: { circular: true },
    },
    {
      name: 'core-is-pure',
      severity: 'error',
      ...only('^src/core', {
        pathNot: [
          '^src/core',
          'node_modules/(lezer-feel|@lezer|big\\.js|@types/big\\.js|temporal-polyfill|temporal-spec|re2js|uuid|nanoid|intl-messageformat)',
        ],
      }),
    },
    {
      name: 'kernel-imports-nothing',
      severity: 'error',
      ...only('^src/core/kernel', { pathNot: ['^src/core/kernel', 'node_modules/(uuid|nanoid)'] }),
    },
    {
      name: 'zod-only-in-contract',
      severity: 'error',
      ...only('^src/(?!contract|http)', { path: 'node_modules/zod' }),
    },
    {
      name: 'contract-sees-core',
      severity: 'error',
      ...only('^src/contract', { path: '^src/(?!contract|core)' }),
    },
    {
      name: 'islands-see-core-and-contract',
      severity: 'error',
      ...only('^src/islands', { path: '^src/(?!islands|core|contract)' }),
    },
    {
      name: 'islands-keep-to-themselves',
      severity: 'error',
      comment:
        'What two islands share belongs in kit. A rehearsal fills the very sheet that colleagues do, and an example is read from it.',
      from: { path: '^src/islands/([^/]+)/', pathNot: '^src/islands/workbench/(Rehears|use-example)' },
      to: { path: '^src/islands/', pathNot: ['^src/islands/$1/', '^src/islands/kit/'] },
    },
    {
      name: 'kit-knows-no-feature',
      severity: 'error',
      ...only('^src/islands/kit', { path: '^src/islands/(?!kit)' }),
    },
    {
      name: 'doors-never-reach-data',
      severity: 'error',
      ...only('^src/(pages|http|jobs|layouts|middleware)', { path: '^src/data' }),
    },
    {
      name: 'use-cases-below-doors',
      severity: 'error',
      ...only('^src/use-cases', { path: '^src/(pages|http|islands|layouts)' }),
    },
    {
      name: 'data-below-use-cases',
      severity: 'error',
      ...only('^src/data', { path: '^src/(?!data|core|contract)' }),
    },
    {
      name: 'outside-sees-core',
      severity: 'error',
      comment: 'What is asked of other services comes back as values.',
      ...only('^src/outside', { path: '^src/(?!outside|core)' }),
    },
    {
      name: 'files-see-core',
      severity: 'error',
      comment: 'Formats in and out know nothing of the database or of screens.',
      ...only('^src/files', { path: '^src/(?!files|core)' }),
    },
    {
      name: 'sql-only-in-data',
      severity: 'error',
      ...only('^src/(?!data)', { path: 'node_modules/(drizzle-orm|pg)/' }),
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    exclude: { path: '\\.test\\.ts$' },
    enhancedResolveOptions: {
      extensions: ['.ts', '.tsx', '.astro', '.mjs', '.js'],
      exportsFields: ['exports'],
      conditionNames: ['import', 'node'],
    },
  },
};
