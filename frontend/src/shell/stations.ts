// The screens of the stations, each with the stages whose results it draws. What a station is called and asks comes from the core.
import type { Component } from "vue";
import type { FieldsOf, StageName, StationKey } from "@/api/types";

export interface Screen {
  key: StationKey;
  needs: StageName[];
  /** Stations, or parts of them, whose fields it shows besides its own. */
  also?: FieldsOf[];
  view: () => Promise<{ default: Component }>;
}

/** In the order of work: key 1 to 9 and 0 go to the ten of the climb, W to the work. */
export const SCREENS: Screen[] = [
  { key: "engine", needs: ["engine"], view: () => import("@/stations/engine/EngineStation.vue") },
  { key: "fuel", needs: ["fuel", "doubt"], also: ["wiring/fitted"], view: () => import("@/stations/fuel/FuelStation.vue") },
  { key: "injectors", needs: ["injectors"], also: ["fuel/regulator"], view: () => import("@/stations/injectors/InjectorsStation.vue") },
  { key: "air", needs: ["air"], view: () => import("@/stations/air/AirStation.vue") },
  {
    key: "sensors",
    needs: ["sensors", "trigger", "engine"],
    view: () => import("@/stations/sensors/SensorsStation.vue"),
  },
  { key: "ignition", needs: ["ignition"], also: ["wiring/unit"], view: () => import("@/stations/ignition/IgnitionStation.vue") },
  { key: "wiring", needs: ["wiring"], view: () => import("@/stations/wiring/WiringStation.vue") },
  { key: "tune", needs: ["tune", "in_use"], view: () => import("@/stations/tune/TuneStation.vue") },
  { key: "start", needs: ["start"], view: () => import("@/stations/start/StartStation.vue") },
  { key: "road", needs: ["road"], view: () => import("@/stations/road/RoadStation.vue") },
  // Beside the climb, one key away.
  { key: "work", needs: ["work"], view: () => import("@/stations/work/WorkStation.vue") },
];

export const fieldsOf = (screen: Screen): FieldsOf[] => [screen.key, ...(screen.also ?? [])];
