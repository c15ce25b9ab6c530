/** JSON Schema (draft 2020-12) and the answers of OpenAPI operations as layouts, and layouts as JSON Schema. */
package ninepin.core.format.json.schema;
