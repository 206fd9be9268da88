-- name: list_projects
SELECT p.id, p.name, p.site, p.revision, p.changed_at,
       (SELECT count(*) FROM drops d WHERE d.project_id = p.id) AS drops,
       (SELECT count(*) FROM rooms r WHERE r.project_id = p.id) AS rooms
FROM projects p
ORDER BY p.changed_at DESC, p.id;

-- name: create_project
INSERT INTO projects (name, site, next_id) VALUES (%(name)s, %(site)s, %(next_id)s) RETURNING id;

-- name: delete_project
DELETE FROM projects WHERE id = %(project)s RETURNING id;

-- name: lock_project
SELECT revision FROM projects WHERE id = %(project)s FOR UPDATE;

-- name: load_project
SELECT p.revision, jsonb_build_object(
    'name', p.name, 'site', p.site, 'next_id', p.next_id,
    'settings', (SELECT to_jsonb(s) - 'project_id' FROM settings s WHERE s.project_id = p.id),
    'closets', (SELECT jsonb_agg(to_jsonb(c) - 'project_id' ORDER BY c.id) FROM closets c WHERE c.project_id = p.id),
    'lines', coalesce((SELECT jsonb_agg(to_jsonb(l) - 'project_id' ORDER BY l.id)
                       FROM lines l WHERE l.project_id = p.id), '[]'),
    'rooms', coalesce((SELECT jsonb_agg(to_jsonb(r) - 'project_id' ORDER BY r.position, r.id)
                       FROM rooms r WHERE r.project_id = p.id), '[]'),
    'drops', coalesce((SELECT jsonb_agg(to_jsonb(d) - 'project_id' ORDER BY d.id)
                       FROM drops d WHERE d.project_id = p.id), '[]'),
    'additions', coalesce((SELECT jsonb_agg(to_jsonb(a) - 'project_id' ORDER BY a.id)
                           FROM additions a WHERE a.project_id = p.id), '[]'),
    'growth_rates', coalesce((SELECT jsonb_agg(to_jsonb(g) - 'project_id' ORDER BY g.kind)
                              FROM growth_rates g WHERE g.project_id = p.id), '[]'),
    'stances', coalesce((SELECT jsonb_agg(to_jsonb(t) - 'project_id' ORDER BY t.model)
                         FROM stances t WHERE t.project_id = p.id), '[]')) AS facts
FROM projects p
WHERE p.id = %(project)s;

-- name: put_project
UPDATE projects SET name = %(name)s, site = %(site)s, next_id = greatest(next_id, %(next_id)s) WHERE id = %(project)s;

-- name: raise_revision
UPDATE projects SET revision = revision + 1, changed_at = now() WHERE id = %(project)s RETURNING revision;

-- name: put_settings
INSERT INTO settings SELECT * FROM jsonb_populate_recordset(NULL::settings, %(rows)s)
ON CONFLICT (project_id) DO UPDATE SET
    start_year = excluded.start_year, horizon_years = excluded.horizon_years, growth_percent = excluded.growth_percent,
    school = excluded.school, margin_percent = excluded.margin_percent, jacks_live = excluded.jacks_live,
    separate_networks = excluded.separate_networks, chain_allowed = excluded.chain_allowed, aim = excluded.aim,
    budget_minor = excluded.budget_minor, currency = excluded.currency;

-- name: put_closets
INSERT INTO closets SELECT * FROM jsonb_populate_recordset(NULL::closets, %(rows)s)
ON CONFLICT (project_id, id) DO UPDATE SET
    name = excluded.name, housing = excluded.housing, units = excluded.units, depth_mm = excluded.depth_mm,
    load_kg = excluded.load_kg, sockets = excluded.sockets, ups_outlets = excluded.ups_outlets,
    living_space = excluded.living_space;

-- name: put_lines
INSERT INTO lines SELECT * FROM jsonb_populate_recordset(NULL::lines, %(rows)s)
ON CONFLICT (project_id, id) DO UPDATE SET
    name = excluded.name, down_mbit = excluded.down_mbit, up_mbit = excluded.up_mbit, standby = excluded.standby;

-- name: put_rooms
INSERT INTO rooms SELECT * FROM jsonb_populate_recordset(NULL::rooms, %(rows)s)
ON CONFLICT (project_id, id) DO UPDATE SET
    name = excluded.name, floor = excluded.floor, outside = excluded.outside, position = excluded.position;

-- name: put_drops
INSERT INTO drops SELECT * FROM jsonb_populate_recordset(NULL::drops, %(rows)s)
ON CONFLICT (project_id, id) DO UPDATE SET
    room_id = excluded.room_id, closet_id = excluded.closet_id, kind = excluded.kind, label = excluded.label,
    place = excluded.place, in_use = excluded.in_use, speed_mbit = excluded.speed_mbit,
    poe_class = excluded.poe_class, draw_w = excluded.draw_w, measured_w = excluded.measured_w,
    traffic_mbit = excluded.traffic_mbit, run_m = excluded.run_m, category = excluded.category,
    outdoor_jacket = excluded.outdoor_jacket, large_frames = excluded.large_frames, note = excluded.note;

-- name: put_additions
INSERT INTO additions SELECT * FROM jsonb_populate_recordset(NULL::additions, %(rows)s)
ON CONFLICT (project_id, id) DO UPDATE SET kind = excluded.kind, count = excluded.count, years = excluded.years;

-- name: put_growth_rates
INSERT INTO growth_rates SELECT * FROM jsonb_populate_recordset(NULL::growth_rates, %(rows)s)
ON CONFLICT (project_id, kind) DO UPDATE SET percent = excluded.percent;

-- name: put_stances
INSERT INTO stances SELECT * FROM jsonb_populate_recordset(NULL::stances, %(rows)s)
ON CONFLICT (project_id, model) DO UPDATE SET
    pinned = excluded.pinned, excluded = excluded.excluded, owned = excluded.owned, held = excluded.held;

-- name: delete_lines
DELETE FROM lines WHERE project_id = %(project)s AND id = ANY(%(keys)s);

-- name: delete_rooms
DELETE FROM rooms WHERE project_id = %(project)s AND id = ANY(%(keys)s);

-- name: delete_drops
DELETE FROM drops WHERE project_id = %(project)s AND id = ANY(%(keys)s);

-- name: delete_additions
DELETE FROM additions WHERE project_id = %(project)s AND id = ANY(%(keys)s);

-- name: delete_growth_rates
DELETE FROM growth_rates WHERE project_id = %(project)s AND kind = ANY(%(keys)s);

-- name: delete_stances
DELETE FROM stances WHERE project_id = %(project)s AND model = ANY(%(keys)s);
