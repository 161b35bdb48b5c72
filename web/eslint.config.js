import js from '@eslint/js';
import a11y from 'eslint-plugin-jsx-a11y';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** From the inside out; pages stand beside each other. The house rules' test walks the same order. */
const HOUSES = [
  ['lib'],
  ['ui'],
  ['bench'],
  ['drawings'],
  ['panels'],
  ['stations', 'garage', 'car', 'logbook', 'compare', 'advise', 'walk', 'team'],
  ['shell'],
];

export default tseslint.config(
  { ignores: ['dist', 'src/lib/schema.d.ts', 'vite.config.ts', 'eslint.config.js'] },
  js.configs.recommended,
  ...tseslint.configs.strictTypeChecked,
  a11y.flatConfigs.recommended,
  {
    languageOptions: { parserOptions: { projectService: true } },
    plugins: { 'react-hooks': hooks },
    rules: {
      'max-lines-per-function': ['error', { max: 80, skipBlankLines: true, skipComments: true }],
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/no-confusing-void-expression': 'off',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }],
      '@typescript-eslint/no-floating-promises': ['error', { ignoreVoid: true }],
      // a table that scrolls by itself has to be reached by keys
      'jsx-a11y/no-noninteractive-tabindex': ['error', { tags: [], roles: ['tabpanel', 'group'] }],
    },
  },
  // What may import what: from the inside out. A page knows no other page, only the shell knows all.
  ...HOUSES.map((group, i) => ({
    files: group.map((house) => `src/${house}/**`),
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: HOUSES.slice(i + 1)
            .flat()
            .map((above) => ({ group: [`**/${above}/**`, `../${above}/*`] })),
        },
      ],
    },
  })),
);
