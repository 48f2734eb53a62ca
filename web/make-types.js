// The API's types from its document, both in the house's shape: what is never there is not written down.
import { readFileSync, writeFileSync } from 'node:fs'
import openapiTS, { astToString } from 'openapi-typescript'
import * as prettier from 'prettier'
import ts from 'typescript'

const HERE = new URL('src/api/', import.meta.url)
const shape = await prettier.resolveConfig(new URL('schema.d.ts', HERE))

async function write(name, text) {
  const filepath = new URL(name, HERE)
  writeFileSync(filepath, await prettier.format(text, { ...shape, filepath: filepath.pathname }))
}

/** `put?: never` and headers of any name say of an operation only what everybody expects. */
function saysNothing(node) {
  if (!ts.isPropertySignature(node) || !node.type) return false
  if (node.questionToken && node.type.kind === ts.SyntaxKind.NeverKeyword) return true
  const { text } = node.name
  return (text === 'headers' || text === 'parameters') && node.type.members?.every(saysNothingOrAny)
}

const saysNothingOrAny = (member) => ts.isIndexSignatureDeclaration(member) || saysNothing(member)

function without(context) {
  const visit = (node) => (saysNothing(node) ? undefined : ts.visitEachChild(node, visit, context))
  return (node) => ts.visitNode(node, visit)
}

const document = JSON.parse(readFileSync(process.stdin.fd, 'utf8'))
const nodes = ts.transform(await openapiTS(document), [without]).transformed
// an object that fits a line stays on it when it does not begin with a new one
const types = astToString(nodes).replace(/\{\n\s+(?!\/\*\*)/g, '{ ')
await write('openapi.json', JSON.stringify(document))
await write('schema.d.ts', `// Made by \`make types\`.\n${types}`)
