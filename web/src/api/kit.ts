// Calls and queries of the Kit station: gear, sheets, measuring.
import { queryOptions } from "@tanstack/react-query";
import { answered, BINARY, client, FORM, formOf } from "./http";
import { keys } from "./keys";
import type {
  CameraSheet,
  Curve,
  Editions,
  GlassOut,
  GreyStep,
  Keeping,
  KitView,
  ModeMap,
  NoiseMeasured,
  Schemas,
  ThingKind,
} from "./types";

export const kitApi = {
  kit: () => answered<KitView>(client.GET("/api/kit")),
  keepCamera: (id: string, revision: number, change: Record<string, unknown>) =>
    answered<Schemas["KeepingKept"]>(
      client.PATCH("/api/kit/cameras/{camera_id}/keeping", {
        params: { path: { camera_id: id } },
        body: { revision, change },
      }),
    ),
  putCameraAway: (id: string) =>
    answered<void>(client.DELETE("/api/kit/cameras/{camera_id}", { params: { path: { camera_id: id } } })),
  bringCameraBack: (id: string) =>
    answered<Schemas["Named"]>(
      client.POST("/api/kit/cameras/{camera_id}/back", { params: { path: { camera_id: id } } }),
    ),
  moveExamples: (away: boolean) =>
    answered<Schemas["Moved"]>(client.POST(away ? "/api/kit/examples/away" : "/api/kit/examples/back")),
  addThing: (kind: ThingKind, id: string, body: { thing: Record<string, unknown>; keeping: Keeping }) =>
    answered<Schemas["ThingOut"]>(
      client.PUT("/api/kit/things/{kind}/{thing_id}", { params: { path: { kind, thing_id: id } }, body }),
    ),
  /** Only what changed of a thing, or of its state and place. */
  changeThing: (kind: ThingKind, id: string, body: Partial<Schemas["ThingChange"]> & { revision: number }) =>
    answered<Schemas["ThingOut"]>(
      client.PATCH("/api/kit/things/{kind}/{thing_id}", {
        params: { path: { kind, thing_id: id } },
        body: { thing: {}, keeping: {}, ...body },
      }),
    ),
  putThingAway: (kind: ThingKind, id: string) =>
    answered<void>(
      client.DELETE("/api/kit/things/{kind}/{thing_id}", { params: { path: { kind, thing_id: id } } }),
    ),
  bringThingBack: (kind: ThingKind, id: string) =>
    answered<Schemas["ThingOut"]>(
      client.POST("/api/kit/things/{kind}/{thing_id}/back", { params: { path: { kind, thing_id: id } } }),
    ),
  importKit: (file: Blob, name: string, choices: string[]) =>
    answered<Schemas["KitRead"]>(
      client.POST("/api/kit/import", {
        body: file as never,
        params: { query: { name, choices } },
        ...BINARY,
      }),
    ),
  modeMap: (id: string) =>
    answered<ModeMap>(client.GET("/api/cameras/{camera_id}/map", { params: { path: { camera_id: id } } })),
  editions: (id: string) =>
    answered<Editions>(
      client.GET("/api/cameras/{camera_id}/editions", { params: { path: { camera_id: id } } }),
    ),
  editionAgain: (id: string, edition: number) =>
    answered<CameraSheet>(
      client.POST("/api/cameras/{camera_id}/editions/{edition}/again", {
        params: { path: { camera_id: id, edition } },
      }),
    ),
  sheet: (id: string) =>
    answered<CameraSheet>(client.GET("/api/cameras/{camera_id}", { params: { path: { camera_id: id } } })),
  putMeasured: (id: string, body: Schemas["Measured"]) =>
    answered<CameraSheet>(
      client.POST("/api/cameras/{camera_id}/measured", { params: { path: { camera_id: id } }, body }),
    ),
  greySteps: (files: File[], query: { iso?: number; transfer: Curve }) =>
    answered<GreyStep[]>(
      client.POST("/api/measure/grey-step", { body: formOf({ files }) as never, params: { query }, ...FORM }),
    ),
  fitNoise: (steps: GreyStep[]) =>
    answered<NoiseMeasured>(client.POST("/api/measure/noise", { body: { steps } })),
  sampleLadder: () => answered<Schemas["SampleLadder"]>(client.GET("/api/measure/sample-ladder")),
  measureGlass: (with_glass: File, without: File, query: { exposure_stops?: number; transfer: Curve }) =>
    answered<GlassOut>(
      client.POST("/api/measure/glass", {
        body: formOf({ with_glass: [with_glass], without: [without] }) as never,
        params: { query },
        ...FORM,
      }),
    ),
};

export const kitQuery = queryOptions({ queryKey: keys.kit, queryFn: kitApi.kit });
export const mapQuery = (camera: string) =>
  queryOptions({ queryKey: keys.map(camera), queryFn: () => kitApi.modeMap(camera) });
export const editionsQuery = (camera: string) =>
  queryOptions({ queryKey: keys.editionsOf(camera), queryFn: () => kitApi.editions(camera) });
export const sheetQuery = (camera: string) =>
  queryOptions({ queryKey: keys.sheet(camera), queryFn: () => kitApi.sheet(camera) });
/** The forms in which gear is entered: they stay as they are. */
export const gearFormsQuery = queryOptions({
  queryKey: keys.gearForms,
  queryFn: () => answered<Schemas["GearForms"]>(client.GET("/api/kit/forms")),
  staleTime: Number.POSITIVE_INFINITY,
});
