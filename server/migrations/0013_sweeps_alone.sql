-- Every sweep so far was taken of all that follows its plane.
UPDATE line_sweeps SET body = json_set(body, '$.alone', json('false'));
