"""The figures of results."""

from dakika_server.results.kinds.audience import Audience
from dakika_server.results.kinds.course import Course
from dakika_server.results.kinds.difference import Difference
from dakika_server.results.kinds.findings import Findings
from dakika_server.results.kinds.groups import Groups
from dakika_server.results.kinds.growth import Growth
from dakika_server.results.kinds.posts import Posts
from dakika_server.results.kinds.top import TopPosts

KINDS = (Course(), Posts(), Groups(), Audience(), Difference(), TopPosts(), Findings(), Growth())
