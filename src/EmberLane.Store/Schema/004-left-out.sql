-- Files that bringing in a folder left out, and why; written anew each time that folder is brought in.
CREATE TABLE left_out (
    id INTEGER PRIMARY KEY,
    job_id INTEGER NOT NULL REFERENCES job(id),
    path TEXT NOT NULL,
    reason TEXT NOT NULL
) STRICT;
CREATE INDEX left_out_by_job ON left_out(job_id, id);
