-- A piece is known by what it covers, so that one made under another plan is never taken for it.
DROP TABLE job_piece;
CREATE TABLE job_piece (
    job_id INTEGER NOT NULL REFERENCES job(id),
    first_step INTEGER NOT NULL,
    end_step INTEGER NOT NULL,
    words TEXT NOT NULL,
    PRIMARY KEY (job_id, first_step, end_step)
) STRICT, WITHOUT ROWID;
