"""What people do on a site: visits, access logs, funnels, attribution."""
