package lanternshed.server.drawer;

import org.springframework.data.jpa.repository.JpaRepository;

/** What lies of each kind. */
interface DrawerRepository extends JpaRepository<DrawerEntity, String> {}
