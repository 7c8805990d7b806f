import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['target', 'node_modules', 'src/api/schema.d.ts'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue', '**/*.ts'],
    languageOptions: { parserOptions: { parser: ts.parser }, globals: { ...browser() } },
    rules: { 'vue/multi-word-component-names': 'off', 'no-undef': 'off' },
  },
  prettier,
)

function browser() {
  return { window: 'readonly', document: 'readonly', localStorage: 'readonly' }
}
