"""Turning tube: a tube along each table in bearings on a line of posts, turned by a drive."""
