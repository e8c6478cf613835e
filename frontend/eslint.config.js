import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

export default ts.config({ ignores: ['dist/**', 'src/api/schema.ts'] }, ...ts.configs.recommended, ...vue.configs['flat/recommended'], {
  files: ['**/*.vue'],
  languageOptions: { parserOptions: { parser: ts.parser } },
  rules: {
    // the content security policy blocks style attributes in the page's source
    'vue/no-static-inline-styles': 'error',
    // how a tag's attributes are broken over lines is left to the writer
    'vue/max-attributes-per-line': 'off',
    'vue/singleline-html-element-content-newline': 'off',
    'vue/html-self-closing': 'off',
    'vue/html-indent': 'off',
    'vue/html-closing-bracket-newline': 'off',
    'vue/first-attribute-linebreak': 'off',
    'vue/multiline-html-element-content-newline': 'off',
    'vue/attributes-order': 'off',
    // Vuetify's slots are named like item.name
    'vue/valid-v-slot': ['error', { allowModifiers: true }],
  },
})
