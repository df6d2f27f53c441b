// Says whether a file is an OpenAPI description, by the schema that the OpenAPI initiative publishes.
// Usage: node check-openapi.mjs FILE
import { readFile } from 'node:fs/promises'
import { Validator } from '@seriousme/openapi-schema-validator'

const validator = new Validator()
const { valid, errors } = await validator.validate(JSON.parse(await readFile(process.argv[2], 'utf8')))
console.log(JSON.stringify({ valid, version: validator.version, errors: errors ?? [] }))
