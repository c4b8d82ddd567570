# What is installed: the public headers, the libraries, the executable, and the package for find_package(Mileage).
include(GNUInstallDirs)
include(CMakePackageConfigHelpers)

set(package_folder ${CMAKE_INSTALL_LIBDIR}/cmake/Mileage)

install(TARGETS mileage_core mileage_festival mileage_views mileage_figures mileage_tool EXPORT MileageTargets)
if(TARGET mileage_device)
  install(TARGETS mileage_device EXPORT MileageTargets)
endif()
install(TARGETS mileage)
install(DIRECTORY include/mileage DESTINATION ${CMAKE_INSTALL_INCLUDEDIR})
install(FILES demo/drift.study.jsonl DESTINATION ${CMAKE_INSTALL_DATADIR}/mileage)
install(EXPORT MileageTargets NAMESPACE mileage:: DESTINATION ${package_folder})

configure_package_config_file(cmake/MileageConfig.cmake.in ${PROJECT_BINARY_DIR}/MileageConfig.cmake
  INSTALL_DESTINATION ${package_folder})
write_basic_package_version_file(${PROJECT_BINARY_DIR}/MileageConfigVersion.cmake COMPATIBILITY SameMinorVersion)
install(FILES ${PROJECT_BINARY_DIR}/MileageConfig.cmake ${PROJECT_BINARY_DIR}/MileageConfigVersion.cmake
  DESTINATION ${package_folder})
