import { componentName, componentsOf, ownerName, type FieldSpec, type Project, type Rule, type SpaceField, type ZoneField } from "../model/index.ts";
import { componentField, conditionOf, ruleFields, type Tried } from "./rules.ts";
import { conditionOfComponent, effectiveSetting, tryComponentRule } from "./componentRules.ts";
import { resolve, ruleValuesOf, type Effective } from "./resolve.ts";

/** A thing a rule may fill, by id; of a component its address. */
export interface RuleThing {
  readonly id: string;
  readonly name: string;
}
/** What a rule does to one thing its conditions hold for. */
export interface RuleRow extends RuleThing {
  readonly before: Effective;
  readonly after: Effective;
  /** Whether the value is this rule's: not typed, and no later rule's. */
  readonly ruled: boolean;
}

/** Everything of the kind a rule fills an input of; of faces and openings none, which are told by what they are made of. */
export function ruleThings(project: Project, rule: Rule): RuleThing[] {
  if (rule.target === "space" || rule.target === "zone")
    return Object.entries(rule.target === "space" ? project.spaces : project.zones).map(([id, x]) => ({ id, name: x.name }));
  if (rule.target !== "component") return [];
  const { kind } = componentField(rule.field);
  return componentsOf(project)
    .filter((c) => c.kind === kind)
    .map((c) => ({ id: c.path.join("/"), name: c.path.length === 2 ? (c.name ?? c.id) : `${componentName(c)} of ${ownerName(project, c)}` }));
}

/** Whether a rule's conditions hold for one of its things. */
export function ruleHolds(project: Project, rule: Rule): (id: string) => boolean {
  if (rule.target !== "component") return conditionOf(project, rule);
  const holds = conditionOfComponent(project, rule);
  const all = new Map(componentsOf(project).map((c) => [c.path.join("/"), c]));
  return (id) => {
    const c = all.get(id);
    return c !== undefined && holds(c);
  };
}

/** What a rule gives, thing by thing, where its conditions hold; null: it chooses a construction or fills nothing that is known. */
export function ruleReach(project: Project, rule: Rule): RuleRow[] | null {
  const spec: FieldSpec | null = ruleFields(rule.target).find((f) => f.field === rule.field)?.spec ?? null;
  if (!spec) return null;
  const over = (on: boolean): Project => ({ ...project, rules: project.rules.map((r) => (r.id === rule.id ? { ...r, on } : r)) });
  const reader = (p: Project): ((id: string) => Effective | undefined) => {
    if (rule.target === "component") {
      const all = new Map(componentsOf(p).map((c) => [c.path.join("/"), c]));
      const { field } = componentField(rule.field);
      return (id) => {
        const c = all.get(id);
        return c && effectiveSetting(p, c, field);
      };
    }
    const rows = resolve(p);
    return (id) => (rule.target === "space" ? rows.space.get(id)?.[rule.field as SpaceField] : rows.zone.get(id)?.[rule.field as ZoneField]);
  };
  const [without, acting] = [reader(over(false)), reader(over(true))];
  const holds = ruleHolds(project, rule);
  return ruleThings(project, rule)
    .filter((t) => holds(t.id))
    .flatMap((t): RuleRow[] => {
      const [before, after] = [without(t.id), acting(t.id)];
      return before && after ? [{ ...t, before, after, ruled: after.origin.kind === "rule" && after.origin.from === rule.id }] : [];
    });
}

/** A rule tried on one thing, whether its conditions hold there or not. */
export const tryRuleOn = (project: Project, rule: Rule, id: string): Tried =>
  rule.target === "component" ? tryComponentRule(project, rule, id) : ruleValuesOf(project, rule, id);
