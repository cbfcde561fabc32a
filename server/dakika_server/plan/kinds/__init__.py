"""The figures of the plan itself; what hashtags and boosts have stands in their folders."""

from dakika_server.plan.kinds.calendar import PlanCalendar
from dakika_server.plan.kinds.campaign import PlanCampaign

KINDS = (PlanCalendar(), PlanCampaign())
