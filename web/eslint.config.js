import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'
import parser from 'vue-eslint-parser'

export default tseslint.config(
  { ignores: ['dist', 'src/api/schema.d.ts', 'src/api/tables.ts'] },
  ...tseslint.configs.strict,
  ...vue.configs['flat/essential'],
  {
    files: ['**/*.vue', '**/*.ts'],
    languageOptions: { parser, parserOptions: { parser: tseslint.parser, sourceType: 'module' } },
    rules: { 'vue/multi-word-component-names': 'off', eqeqeq: 'error' },
  },
)
