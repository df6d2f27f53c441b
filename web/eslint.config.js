import js from '@eslint/js'
import { createTypeScriptImportResolver } from 'eslint-import-resolver-typescript'
import imports from 'eslint-plugin-import-x'
import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

// Each folder uses those before it: what is drawn knows what is stored, never the other way.
const order = ['core', 'api', 'stores', 'look', 'scene', 'ui']
const zones = order.flatMap((folder, i) =>
  order.slice(i + 1).map((later) => ({
    target: `./src/${folder}`,
    from: `./src/${later}`,
    message: `${folder} comes before ${later}: ${order.join(', ')}.`,
  })),
)
// Of the rooms of the interface, fields serve all others.
const rooms = ['scenes', 'rack', 'recipe', 'strip', 'time', 'panels', 'kinds']
zones.push(...rooms.map((room) => ({ target: './src/ui/fields', from: `./src/ui/${room}` })))

export default tseslint.config(
  { ignores: ['dist', 'src/core/*.generated.ts'] },
  js.configs.recommended,
  ...tseslint.configs.recommendedTypeChecked,
  {
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    plugins: { 'react-hooks': hooks, 'import-x': imports },
    settings: { 'import-x/resolver-next': [createTypeScriptImportResolver()] },
    rules: {
      ...hooks.configs.recommended.rules,
      // React Three Fiber objects and refs are changed in place by design.
      'react-hooks/immutability': 'off',
      'import-x/no-cycle': 'error',
      'max-lines': ['error', 500],
      // A component's layout is one expression; what it does is cut off it before it gets this long.
      'max-lines-per-function': ['error', 200],
      'import-x/no-restricted-paths': ['error', { zones, basePath: import.meta.dirname }],
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-floating-promises': ['error', { ignoreVoid: true }],
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }],
    },
  },
  {
    files: ['**/*.js', 'tools/**'],
    ...tseslint.configs.disableTypeChecked,
    languageOptions: {
      globals: { process: 'readonly', console: 'readonly', setTimeout: 'readonly', structuredClone: 'readonly' },
      parserOptions: { projectService: false },
    },
  },
)
