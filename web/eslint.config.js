import vue from 'eslint-plugin-vue'
import globals from 'globals'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['dist', 'dist-parity', 'src/api/schema.d.ts'] },
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue', '**/*.ts'],
    languageOptions: { parserOptions: { parser: ts.parser }, globals: globals.browser },
    rules: {
      // prettier decides the shape of lines; the vue layout rules would fight it
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/html-indent': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/first-attribute-linebreak': 'off',
      // what the formatter cannot break
      'max-len': ['error', { code: 120 }],
    },
  },
  // arrows point one way: stations -> components -> stores, composables -> lib, ink, api
  below(['src/{stores,composables,lib,ink,api}/**'], ['@/components/*', '@/stations/*']),
  below(['src/components/**'], ['@/stations/*']),
  below(['src/stations/**'], ['@/stations/*', '../*']),
)

function below(files, group) {
  const message = 'This lies above, or in another station.'
  return { files, rules: { 'no-restricted-imports': ['error', { patterns: [{ group, message }] }] } }
}
