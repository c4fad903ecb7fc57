/** The core is pure, and its parts depend on each other in one direction. */
const order = [
  ["numeric"],
  ["model"],
  ["geometry", "climate", "fabric", "use", "packs", "expression", "weatherFile", "logged"],
  ["library"],
  ["inputs"],
  ["airflow"],
  ["electric"],
  ["services"],
  ["bench"],
  ["simulate"],
  ["run"],
  ["results"],
  ["options", "compliance"],
  ["measured"],
  ["exchange"],
];
const ranks = order.flatMap((parts, rank) => parts.map((part) => ({ part, rank })));
const test = "\\.test\\.ts$";

module.exports = {
  forbidden: [
    { name: "no-circular", severity: "error", from: {}, to: { circular: true } },
    { name: "core-is-pure", severity: "error", from: { path: "^core/src", pathNot: test }, to: { dependencyTypes: ["core"] } },
    { name: "core-knows-nobody", severity: "error", from: { path: "^core/src" }, to: { path: "^(web|runner|cli|scripts|demo)/" } },
    { name: "web-knows-no-runner", severity: "error", from: { path: "^web/" }, to: { path: "^(runner|cli)/" } },
    ...ranks
      .map(({ part, rank }) => ({
        name: `core-${part}-looks-down`,
        severity: "error",
        from: { path: `^core/src/${part}/`, pathNot: test },
        to: {
          path: `^core/src/(${ranks
            .filter((r) => r.rank > rank || (r.rank === rank && r.part !== part && rank !== 2))
            .map((r) => r.part)
            .join("|")})/`,
        },
      }))
      .filter((r) => !r.to.path.includes("()")),
    {
      name: "core-parts-by-index",
      severity: "error",
      from: { path: "^core/src/([^/]+)/", pathNot: test },
      to: { path: "^core/src/[^/]+/[^/]+\\.ts$", pathNot: ["^core/src/$1/", "/index\\.ts$", "closedForms"] },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    doNotFollow: { path: "node_modules" },
    exclude: { path: "\\.next" },
    enhancedResolveOptions: { extensions: [".ts", ".tsx", ".js", ".mjs", ".json"] },
  },
};
