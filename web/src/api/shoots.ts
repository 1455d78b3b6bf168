// Calls and queries of the Shoots station: shoots, their lists, files in.
import { queryOptions } from "@tanstack/react-query";
import { answered, BINARY, client, of } from "./http";
import { keys } from "./keys";
import type { Brief, ListRead, Schemas, Shoot, ShootFields, Shot } from "./types";

/** A shoot of which nothing is said: any day, where this machine is. */
const nowhere = (): ShootFields => ({
  title: "",
  place: "",
  day: null,
  zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  latitude: null,
  longitude: null,
  mains_hz: 50,
  note: "",
});

export const shootsApi = {
  shoots: () => answered<Schemas["ShootList"]>(client.GET("/api/shoots")),
  addShoot: (said: Partial<ShootFields> & { title: string }) =>
    answered<Shoot>(client.POST("/api/shoots", { body: { ...nowhere(), ...said } })),
  changeShoot: (id: string, revision: number, change: Partial<ShootFields>) =>
    answered<Shoot>(
      client.PATCH("/api/shoots/{shoot_id}", {
        params: { path: { shoot_id: id } },
        body: { revision, change },
      }),
    ),
  removeShoot: (id: string) =>
    answered<void>(client.DELETE("/api/shoots/{shoot_id}", { params: { path: { shoot_id: id } } })),
  restoreShoot: (id: string) =>
    answered<Shoot>(client.POST("/api/shoots/{shoot_id}/restore", { params: { path: { shoot_id: id } } })),
  shots: (shoot: string) =>
    answered<Schemas["ShotList"]>(
      client.GET("/api/shoots/{shoot_id}/shots", { params: { path: { shoot_id: shoot } } }),
    ),
  addShot: (shoot: string, body: { brief: Brief; starts_at: string | null }) =>
    answered<Shot>(
      client.POST("/api/shoots/{shoot_id}/shots", { params: { path: { shoot_id: shoot } }, body }),
    ),
  duplicateShot: (id: string) =>
    answered<Shot>(client.POST("/api/shots/{shot_id}/duplicate", { params: { path: { shot_id: id } } })),
  removeShot: (id: string) =>
    answered<void>(client.DELETE("/api/shots/{shot_id}", { params: { path: { shot_id: id } } })),
  restoreShot: (id: string) =>
    answered<Shot>(client.POST("/api/shots/{shot_id}/restore", { params: { path: { shot_id: id } } })),
  importShoot: (file: Blob) =>
    answered<Schemas["ShootRead"]>(client.POST("/api/shoots/import", { body: file as never, ...BINARY })),
  importShots: (shoot: string, file: Blob, leaveOut: boolean) =>
    answered<ListRead>(
      client.POST("/api/shoots/{shoot_id}/shots/import", {
        params: { ...of(shoot).params, query: { leave_out: leaveOut } },
        body: file as never,
        ...BINARY,
      }),
    ),
};

const OLD_MS = 1500;

export const shootsQuery = queryOptions({ queryKey: keys.shoots, queryFn: shootsApi.shoots });
export const shotsQuery = (shoot: string) =>
  queryOptions({
    queryKey: keys.shotsOf(shoot),
    queryFn: () => shootsApi.shots(shoot),
    // Old figures are replaced as soon as there are new ones.
    refetchInterval: (query) => (query.state.data?.items.some((shot) => !shot.as_it_was) ? OLD_MS : false),
  });
