// The ten stations in the order of work: one line each. Key 1 to 9 and 0 go there.
import type { Component } from "vue";
import type { StationKey } from "@/api/types";

export interface StationEntry {
  key: StationKey;
  title: string;
  asks: string;
  view: () => Promise<{ default: Component }>;
}

export const STATIONS: StationEntry[] = [
  {
    key: "engine",
    title: "Engine",
    asks: "Is it fit, and what will it ask for?",
    view: () => import("@/stations/engine/EngineStation.vue"),
  },
  {
    key: "fuel",
    title: "Fuel",
    asks: "Will the pump hold the pressure when the engine asks for everything?",
    view: () => import("@/stations/fuel/FuelStation.vue"),
  },
  {
    key: "injectors",
    title: "Injectors",
    asks: "Large enough at full power, small enough at idle?",
    view: () => import("@/stations/injectors/InjectorsStation.vue"),
  },
  { key: "air", title: "Air", asks: "Does it breathe, and does it shut again?", view: () => import("@/stations/air/AirStation.vue") },
  {
    key: "sensors",
    title: "Sensors",
    asks: "What must the control unit see, and from where?",
    view: () => import("@/stations/sensors/SensorsStation.vue"),
  },
  {
    key: "ignition",
    title: "Ignition",
    asks: "Who fires what, when, and is the coil ready?",
    view: () => import("@/stations/ignition/IgnitionStation.vue"),
  },
  {
    key: "wiring",
    title: "Wiring",
    asks: "Which wire goes where, how thick, behind which fuse?",
    view: () => import("@/stations/wiring/WiringStation.vue"),
  },
  {
    key: "tune",
    title: "Tune",
    asks: "Tables good enough to start and be driven gently.",
    view: () => import("@/stations/tune/TuneStation.vue"),
  },
  {
    key: "start",
    title: "First start",
    asks: "One step at a time, with the figures to expect.",
    view: () => import("@/stations/start/StartStation.vue"),
  },
  { key: "road", title: "Road", asks: "Drive, log, correct.", view: () => import("@/stations/road/RoadStation.vue") },
];

export const stationOf = (pointer: string): StationKey => {
  const first = pointer.split("/")[1];
  return STATIONS.find((s) => s.key === first)?.key ?? "engine";
};
