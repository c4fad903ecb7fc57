import fc from "fast-check";

/** Property tests draw the same cases every time, so that a red build is the change's; PROPERTY_SEED draws others. */
fc.configureGlobal({ seed: Number(process.env.PROPERTY_SEED ?? 20261123) });
