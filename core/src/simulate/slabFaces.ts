import { faceAssembly } from "../inputs/index.ts";
import { componentName, type Problem, type Project } from "../model/index.ts";
import { pipeResistance, resistanceOf, type ServiceModel, type SlabSettings } from "../services/index.ts";
import type { Element } from "./elements.ts";
import type { CompiledModel } from "./model.ts";

/** Cosine from straight up beyond which a surface is a floor, and below minus which a ceiling. */
const LEVEL = 0.5;
/** Conductivity taken around pipes that lie beside no solid layer, W/m·K. */
const SCREED = 1.2;

/** Faces that the slab circuits of zones lie in, with their area and the resistance between water and layer; a circuit without any is told. */
export function slabFaces(project: Project, services: ServiceModel, list: readonly Element[], exterior: number, warnings: Problem[]): CompiledModel["slabs"] {
  return services.devices.flatMap((x, device) => {
    const { slab } = x;
    if (!slab) return [];
    const faces = list.flatMap((e, element) => {
      if (!e.wall?.circuit) return [];
      const sides = element >= exterior ? ([0, 1] as const) : ([1] as const);
      return sides.flatMap((side) => {
        if ((side === 0 ? e.zone0 : e.zone1) !== x.zone) return [];
        const up = element >= exterior && side === 1 ? e.face.normal[2] : -e.face.normal[2];
        if (up > LEVEL ? !slab.where.includes("floor") : up < -LEVEL ? !slab.where.includes("ceiling") : true) return [];
        return [{ element, area: side === 0 ? e.area0 : e.area, resistance: resistance(project, e, slab) }];
      });
    });
    if (faces.length === 0) {
      const c = services.components[x.component];
      warnings.push({
        code: "slab",
        severity: "warning",
        stage: "services",
        path: c.path.join("/"),
        message: `${componentName(c)} of ${c.of} lies in no face: the assembly of its ${slab.where} has no circuit.`,
      });
    }
    return [{ device, faces }];
  });
}

function resistance(project: Project, e: Element, slab: SlabSettings): number {
  if (!slab.pipes) return resistanceOf(slab.effectiveness, slab.flow);
  const { layers } = project.assemblies[faceAssembly(project, e.face).id];
  const at = layers.findIndex((l) => l.kind === "circuit");
  const beside = [layers[at + 1], layers[at - 1]].find((l) => l?.kind === "solid");
  const conductivity = beside?.kind === "solid" ? project.materials[beside.material].conductivity : SCREED;
  const { spacing, diameter, wall, conductivity: pipe, length } = slab.pipes;
  return pipeResistance(spacing, diameter, wall, pipe, conductivity, slab.flow, length);
}
