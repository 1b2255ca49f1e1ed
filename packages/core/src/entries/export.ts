/** What is written for others: reports, tables, compiled wiring, typed names. */
export {
  compileSteps,
  compileWiring,
  projectHash,
  sceneFile,
  type CompiledWiring,
  type CompileOptions,
} from '../compile/compile.js';
export { conformanceCase } from '../compile/conformance.js';
export { wiringJsonSchema } from '../compile/wiring-schema.js';
export { wiringFiles, WIRING_FILE } from '../compile/write.js';
export {
  CSV_FIELDS,
  csvChanges,
  guessMapping,
  readCsvBindings,
  type CsvField,
  type CsvMapping,
  type CsvRow,
  type CsvRowFault,
} from '../exchange/csv-bindings.js';
export { makeForRows, type CsvMade } from '../exchange/csv-making.js';
export { CsvFault, readCsvTable, type CsvCells, type CsvTable } from '../exchange/csv-table.js';
export { bindingsCsv } from '../export/bindings.js';
export { catalogueCsv, catalogueJson } from '../export/catalogue.js';
export { catalogueHtml } from '../presentation/catalogue-page.js';
export {
  coverageCobertura,
  coverageLcov,
  type CoverageOptions,
  type ServedCounts,
} from '../export/coverage.js';
export { auditCsv, graphCsv } from '../export/csv.js';
export { dotText, mermaidText, pathDiagram, rippleDiagram, type Diagram } from '../export/diagram.js';
export { differenceText } from '../export/difference.js';
export { graphMl } from '../export/graphml.js';
export { auditJunit, stopsGate, type JunitOptions } from '../export/junit.js';
export { locate, type Located, type Places, type ProjectTexts } from '../export/located.js';
export { oneLine } from '../export/one-line.js';
export { placeProblems, type PlacedProblem } from '../export/problem-places.js';
export {
  recordLine,
  rehearsalsJunit,
  RehearsalReports,
  rehearsalsText,
  type RehearsalReport,
} from '../export/rehearsals.js';
export { ruleNames, ruleText } from '../export/rule-text.js';
export { rulesPages } from '../export/rules-page.js';
export { auditSarif, type SarifOptions } from '../export/sarif.js';
export { auditText } from '../export/text.js';
export { TABLE_KINDS, type TableKind } from '../tables/kind.js';
export { propertyOfHeading } from '../tables/placements.js';
export { readBindings, type BindingsRead } from '../tables/read-bindings.js';
export { readTable, type TableAsk, type TableRead } from '../tables/read-table.js';
export type { TableRow } from '../tables/table-row.js';
export {
  fieldsOf,
  guessTableKind,
  guessTableMapping,
  TABLES,
  type AnyKind,
  type AnyTable,
  type TableMapping,
} from '../tables/tables.js';
export { unusedDeclarations, withoutUnused, type Unused } from '../tables/unused.js';
export { tableCsv } from '../tables/write-table.js';
export { asyncApi } from '../typed-names/asyncapi.js';
export { namesJsonSchema } from '../typed-names/json-schema.js';
export { typescriptNames } from '../typed-names/typescript.js';
