/**
 * Writes the limits of the API description as constants, one a schema, so that the page
 * offers what the service takes: `CANVAS.width.maximum`, `PHOTO_LAYER.name.maxLength`;
 * and, of tones and effects, what each begins with: `LIGHT_TONE_FRESH`.
 */

import { mkdirSync, readFileSync, writeFileSync } from "node:fs";

const WORDS = [
  "minimum",
  "exclusiveMinimum",
  "maximum",
  "exclusiveMaximum",
  "minLength",
  "maxLength",
  "minItems",
  "maxItems",
];

function limitsOf(property) {
  // What may be left out is described as one of several; their limits are alike.
  const kinds = [property, ...(property.anyOf ?? [])];
  const own = kinds.flatMap((kind) =>
    WORDS.filter((word) => word in kind).map((word) => [word, kind[word]]),
  );
  // Of what there are several, such as positions, the limits of the first.
  const one = kinds.map((kind) => kind.prefixItems?.[0] ?? kind.items).find(Boolean);
  const each = one && !one.$ref ? limitsOf(one) : {};
  return Object.fromEntries([...own, ...(Object.keys(each).length > 0 ? [["each", each]] : [])]);
}

function namedConstant(schema) {
  return schema.replace(/([a-z0-9])([A-Z])/g, "$1_$2").toUpperCase();
}

/** Whatever a layer has several of, each of one kind. */
const BEGINNING = /(Tone|Shadow|^Outline)$/;

const { components, info } = JSON.parse(readFileSync("../docs/openapi.json", "utf8"));
const lines = Object.entries(components.schemas).flatMap(([name, schema]) => {
  const limits = Object.entries(schema.properties ?? {})
    .map(([field, property]) => [field, limitsOf(property)])
    .filter(([, found]) => Object.keys(found).length > 0);
  if (limits.length === 0) return [];
  return [
    `export const ${namedConstant(name)} = ${JSON.stringify(Object.fromEntries(limits))} as const;`,
  ];
});
/** Return all values of a schema as they are where nobody says otherwise. */
function freshOf(schema) {
  return Object.fromEntries(
    Object.entries(schema.properties).map(([field, property]) => [field, property.default]),
  );
}

for (const [name, schema] of Object.entries(components.schemas)) {
  if (!BEGINNING.test(name)) continue;
  lines.push(
    `export const ${namedConstant(name)}_FRESH = ${JSON.stringify(freshOf(schema))} as const;`,
  );
}
lines.push(`export const TAKEN = ${JSON.stringify(info["x-taken"])} as const;`);
mkdirSync("generated", { recursive: true });
writeFileSync("generated/limits.ts", `${lines.join("\n")}\n`);
