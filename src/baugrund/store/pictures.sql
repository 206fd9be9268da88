-- name: keep_picture
INSERT INTO pictures (project_id, key, media_type, width_px, height_px, content)
VALUES (%(project)s, %(key)s, %(media_type)s, %(width_px)s, %(height_px)s, %(content)s)
ON CONFLICT (project_id, key) DO NOTHING;

-- name: load_picture
SELECT media_type, width_px, height_px, content FROM pictures WHERE project_id = %(project)s AND key = %(key)s;

-- name: size_of_other_pictures
-- one that is kept already takes no further room
SELECT coalesce(sum(octet_length(content)), 0) AS bytes FROM pictures
WHERE project_id = %(project)s AND key <> %(key)s;
