// Words for what hangs on vacuum ports, and what is there to be hung.
export const CONSUMERS: Record<string, string> = {
  brake_booster: "brake booster",
  pressure_sensor: "pressure sensor",
  regulator_reference: "regulator reference",
  crankcase_valve: "crankcase valve, dirty side",
  crankcase_breather: "crankcase breather, clean side",
  distributor_advance: "distributor advance",
  gearbox_modulator: "gearbox modulator",
  heater_controls: "heater and lamps",
  canister_purge: "canister purge",
};
export const SOURCES: Record<string, string> = {
  full_manifold: "full manifold",
  ported: "ported, above the plate",
  filtered_air: "filtered air",
  vacuum_pump: "vacuum pump",
};
/** A port as it stands in the build. */
export interface Port {
  source?: string | null;
  bore?: string | null;
  capped?: boolean;
}
